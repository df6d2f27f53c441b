import MenuItem from '@mui/material/MenuItem'
import Select from '@mui/material/Select'
import { useTheme } from '@mui/material/styles'
import type { Ends, Key } from '../../core/value'

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
      title={`${label}: ${endsHints[ends]}`}
      inputProps={{ 'aria-label': label }}
      sx={{
        height: 26,
        fontSize: 12,
        '& .MuiSelect-select': { py: 0, pl: 1 },
        '& fieldset': { borderColor: roles.border },
      }}
    >
      {(['hold', 'carry on', 'repeat', 'build', 'mirror'] as const).map((e) => (
        <MenuItem key={e} value={e} title={endsHints[e]}>
          {e}
        </MenuItem>
      ))}
    </Select>
  )
}

const endsHints: Record<Ends, string> = {
  hold: 'it stays as it is',
  'carry on': 'it goes on at the rate it has there',
  repeat: 'the keys again, from the first value',
  build: 'the keys again, from where the last round ended',
  mirror: 'the keys to and fro',
}

export const keyShapes = ['straight', 'eased', 'stepped', 'free'] as const

/** How a value goes on from a key to the next. */
export function ShapeSelect({
  shape,
  frame,
  onChange,
}: {
  shape: Key['shape']
  frame: number
  onChange: (s: NonNullable<Key['shape']>) => void
}) {
  const { roles } = useTheme()
  return (
    <Select<NonNullable<Key['shape']>>
      variant="outlined"
      value={shape ?? 'straight'}
      title={`From the key at frame ${frame} to the next`}
      onChange={(e) => onChange(e.target.value)}
      inputProps={{ 'aria-label': `From the key at frame ${frame} to the next` }}
      sx={{
        height: 26,
        fontSize: 12,
        '& .MuiSelect-select': { py: 0, pl: 1 },
        '& fieldset': { borderColor: roles.border },
      }}
    >
      {keyShapes.map((s) => (
        <MenuItem key={s} value={s}>
          {s}
        </MenuItem>
      ))}
    </Select>
  )
}
