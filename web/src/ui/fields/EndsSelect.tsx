import MenuItem from '@mui/material/MenuItem'
import Select from '@mui/material/Select'
import { useTheme } from '@mui/material/styles'
import type { Ends } from '../../core/value'

/** What a value does beyond its keys. */
export function EndsSelect({
  ends,
  onChange,
  label = 'After the last key',
}: {
  ends: Ends
  onChange: (e: Ends) => void
  label?: string
}) {
  const { roles } = useTheme()
  return (
    <Select<Ends>
      variant="outlined"
      value={ends}
      onChange={(e) => onChange(e.target.value)}
      inputProps={{ 'aria-label': label }}
      sx={{
        height: 26,
        fontSize: 12,
        '& .MuiSelect-select': { py: 0, pl: 1 },
        '& fieldset': { borderColor: roles.border },
      }}
    >
      {(['hold', 'carry on', 'repeat', 'build', 'mirror'] as const).map((e) => (
        <MenuItem key={e} value={e}>
          {e}
        </MenuItem>
      ))}
    </Select>
  )
}
