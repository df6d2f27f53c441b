import Box from '@mui/material/Box'
import ListSubheader from '@mui/material/ListSubheader'
import MenuItem from '@mui/material/MenuItem'
import Select from '@mui/material/Select'
import { useTheme } from '@mui/material/styles'
import { useId } from 'react'

interface Option {
  value: string
  name: string
  group: string
}

/** A choice among many, in groups. */
export function GroupedPick(p: { label: string; value: string; options: Option[]; onChange: (v: string) => void }) {
  const { roles } = useTheme()
  const label = useId()
  const groups = [...new Set(p.options.map((o) => o.group))]
  return (
    <Box sx={{ display: 'grid', gap: 0.5 }}>
      <Box id={label} sx={{ fontSize: 11, color: roles.secondary }}>
        {p.label}
      </Box>
      <Select
        variant="outlined"
        displayEmpty
        value={p.value}
        onChange={(e) => p.onChange(e.target.value)}
        SelectDisplayProps={{ 'aria-labelledby': label }}
        sx={{
          height: 30,
          fontSize: 12,
          '& .MuiSelect-select': { py: 0, pl: 1 },
          '& fieldset': { borderColor: roles.border },
        }}
      >
        {groups.flatMap((g) => [
          ...(g
            ? [
                <ListSubheader key={`group ${g}`} sx={{ fontSize: 11, lineHeight: '26px', background: roles.raised }}>
                  {g}
                </ListSubheader>,
              ]
            : []),
          ...p.options
            .filter((o) => o.group === g)
            .map((o) => (
              <MenuItem key={o.value} value={o.value} sx={{ fontSize: 12, minHeight: 28 }}>
                {o.name}
              </MenuItem>
            )),
        ])}
      </Select>
    </Box>
  )
}
