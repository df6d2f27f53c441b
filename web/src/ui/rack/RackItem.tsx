import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import { useTheme } from '@mui/material/styles'
import { listOf } from '../../core/remove'
import { useBench, type Kind, type Selection } from '../../stores/bench'
import { openMenu } from '../../stores/menu'
import { renameThing } from '../things'
import type { Item } from './rows'

/** Puts a thing in the place of another of its kind, which moves on. */
function reorder(kind: Kind, id: string, to: string) {
  if (id === to) return
  useBench.getState().edit('reorder the rack', (d) => {
    const list = listOf(d, kind)
    const from = list.findIndex((x) => x.id === id)
    const at = list.findIndex((x) => x.id === to)
    list.splice(at, 0, ...list.splice(from, 1))
  })
}

/** A thing in the rack: pressed it is chosen, dragged it changes its place. */
export function RackItem({
  kind,
  item,
  draggable,
  dragged,
  onDrag,
}: {
  kind: Kind
  item: Item
  draggable: boolean
  dragged: Selection | null
  onDrag: (what: Selection | null) => void
}) {
  const { roles } = useTheme()
  const it = { kind, id: item.id }
  const on = useBench((b) => b.selected?.kind === kind && (b.selected.id === item.id || b.also.includes(item.id)))
  const { select, choose } = useBench.getState()
  return (
    <Button
      startIcon={item.icon}
      aria-pressed={on}
      onClick={(e) => (e.ctrlKey || e.metaKey || e.shiftKey ? choose : select)(it)}
      draggable={draggable}
      onDragStart={(e) => {
        e.dataTransfer.setData('text/plain', item.name)
        e.dataTransfer.effectAllowed = 'move'
        onDrag(it)
      }}
      onDragEnd={() => onDrag(null)}
      onDragOver={(e) => {
        if (dragged?.kind !== kind) return
        e.preventDefault()
        e.dataTransfer.dropEffect = 'move'
      }}
      onDrop={(e) => {
        if (dragged?.kind !== kind) return
        e.preventDefault()
        e.stopPropagation()
        reorder(kind, dragged.id, item.id)
      }}
      onDoubleClick={() => renameThing(it)}
      onContextMenu={(e) => openMenu(it, e)}
      sx={{
        minHeight: 24,
        my: '1px',
        px: 0.75,
        maxWidth: 216,
        color: on ? roles.kelpText : roles.ink,
        fontWeight: on ? 600 : 400,
        background: on ? roles.tint : 'transparent',
        '& .MuiButton-startIcon': { mr: 0.6, ml: 0, color: on ? roles.kelpText : roles.slate },
      }}
    >
      <Box component="span" sx={{ overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap' }}>
        {item.name}
      </Box>
    </Button>
  )
}
