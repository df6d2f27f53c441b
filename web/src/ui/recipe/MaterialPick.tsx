import Box from '@mui/material/Box'
import MenuItem from '@mui/material/MenuItem'
import ListSubheader from '@mui/material/ListSubheader'
import Select from '@mui/material/Select'
import { useTheme } from '@mui/material/styles'
import { useId } from 'react'
import { addMaterial } from '../../core/add'
import { palette } from '../../core/forms'
import type { Document, Material } from '../../core/page.generated'
import { useBench } from '../../stores/bench'
import { Label } from '../fields/fields'

/** A dot of a material's colour. */
export function Swatch({ of }: { of: Material }) {
  const { roles } = useTheme()
  return (
    <Box
      component="span"
      sx={{
        width: 12,
        height: 12,
        flexShrink: 0,
        borderRadius: '50%',
        border: `1px solid ${roles.border}`,
        background: of.under ? `linear-gradient(${of.colour} 50%, ${of.under} 50%)` : of.colour,
      }}
    />
  )
}

const row = { display: 'flex', alignItems: 'center', gap: 1 }

/** What something is made of: one of the scene's materials, a new one of the palette, or what goes with it. */
export function MaterialPick({
  label,
  value,
  otherwise,
  shown,
  onChange,
  set,
}: {
  label: string
  value: string | undefined
  /** What it is where none is named. */
  otherwise: string
  shown?: Material
  /** What the history says. */
  onChange: string
  set: (d: Document, id: string | undefined) => void
}) {
  const { roles } = useTheme()
  const id = useId()
  const own = useBench((b) => b.doc?.materials) ?? []
  const edit = useBench((b) => b.edit)
  return (
    <Box sx={{ minWidth: 0 }}>
      <Label id={id}>{label}</Label>
      <Select
        fullWidth
        displayEmpty
        variant="outlined"
        labelId={id}
        value={value ?? ''}
        onChange={(e) => {
          const to = e.target.value
          edit(onChange, (d) => {
            const made = palette.find((m) => `new ${m.id}` === to)
            set(d, made ? addMaterial(d, made) : to || undefined)
          })
        }}
        sx={{
          height: 26,
          fontSize: 12,
          background: roles.raised,
          '& .MuiSelect-select': { py: 0, pl: 1, ...row },
          '& fieldset': { borderColor: roles.border },
        }}
      >
        <MenuItem value="" sx={row}>
          {shown && !value && <Swatch of={shown} />}
          {otherwise}
        </MenuItem>
        {own.map((m) => (
          <MenuItem key={m.id} value={m.id} sx={row}>
            <Swatch of={m} />
            {m.name}
          </MenuItem>
        ))}
        <ListSubheader sx={{ lineHeight: '28px', fontSize: 11 }}>A new one, to begin with</ListSubheader>
        {palette.map((m) => (
          <MenuItem key={m.id} value={`new ${m.id}`} sx={row}>
            <Swatch of={m} />
            {m.name}
          </MenuItem>
        ))}
      </Select>
    </Box>
  )
}
