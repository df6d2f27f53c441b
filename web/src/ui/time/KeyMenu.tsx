import Divider from '@mui/material/Divider'
import Menu from '@mui/material/Menu'
import MenuItem from '@mui/material/MenuItem'
import type { Key } from '../../core/value'
import { keyShapes } from '../fields/EndsSelect'

export interface KeyMenuAt {
  x: number
  y: number
  frame: number
  shape: Key['shape']
}

/** The menu of one or more keys, by right-click. */
export function KeyMenu({
  at,
  onClose,
  onGo,
  onShape,
  onDelete,
  also,
}: {
  at: KeyMenuAt | null
  onClose: () => void
  onGo: (frame: number) => void
  onShape: (shape: NonNullable<Key['shape']>) => void
  onDelete: () => void
  /** What else can be done, by name. */
  also?: [string, () => void][]
}) {
  if (!at) return null
  const then = (run: () => void) => () => {
    onClose()
    run()
  }
  return (
    <Menu open onClose={onClose} anchorReference="anchorPosition" anchorPosition={{ left: at.x, top: at.y }}>
      <MenuItem onClick={then(() => onGo(at.frame))}>Go to frame {at.frame}</MenuItem>
      {also?.map(([name, run]) => (
        <MenuItem key={name} onClick={then(run)}>
          {name}
        </MenuItem>
      ))}
      <Divider />
      {keyShapes.map((s) => (
        <MenuItem key={s} selected={(at.shape ?? 'straight') === s} onClick={then(() => onShape(s))}>
          To the next key: {s}
        </MenuItem>
      ))}
      <Divider />
      <MenuItem onClick={then(onDelete)}>Delete</MenuItem>
    </Menu>
  )
}
