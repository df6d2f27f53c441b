import ExpandMore from '@mui/icons-material/ExpandMore'
import Box from '@mui/material/Box'
import IconButton from '@mui/material/IconButton'
import Popover from '@mui/material/Popover'
import { useState } from 'react'
import { presentOf, type Slot } from '../../core/slots'
import { useBench } from '../../stores/bench'
import { MovingField } from './MovingField'
import { ValueSource } from './ValueSource'

/** A value that may move: its number, its bead, and where it comes from. */
export function SlotField({ slot, label }: { slot: Slot; label: string }) {
  const doc = useBench((b) => b.doc)!
  const present = useBench((b) => presentOf(slot, doc, b.answer?.readout.values, b.shot.values))
  const [open, setOpen] = useState<HTMLElement | null>(null)
  const says = `Where ${label.toLowerCase()} comes from`
  return (
    <Box sx={{ position: 'relative', minWidth: 0 }}>
      <MovingField
        label={label}
        value={slot.get(doc)}
        present={present}
        quantity={slot.quantity}
        onPreview={(v) => useBench.getState().preview((d) => slot.put(d, v))}
        onCommit={(v, said) => useBench.getState().edit(said, (d) => slot.put(d, v))}
      />
      <IconButton
        aria-label={says}
        title={says}
        onClick={(e) => setOpen(e.currentTarget)}
        sx={{ position: 'absolute', right: 0, top: -1, width: 18, height: 18 }}
      >
        <ExpandMore sx={{ fontSize: 14 }} />
      </IconButton>
      <Popover
        open={!!open}
        anchorEl={open}
        onClose={() => setOpen(null)}
        anchorOrigin={{ vertical: 'bottom', horizontal: 'left' }}
      >
        <Box sx={{ p: 1.5, width: 260 }}>
          <ValueSource slot={slot} label={label} present={present} />
        </Box>
      </Popover>
    </Box>
  )
}
