import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Popover from '@mui/material/Popover'
import { useTheme } from '@mui/material/styles'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { solveLoop } from '../api/client'
import type { Rig } from '../api/page.generated'
import { showWithUnit } from '../core/units'
import { setAt } from '../core/value'
import { useBench } from '../stores/bench'
import { Pair } from './fields'
import { NumberField } from './NumberField'
import { mono } from './theme'

/** Finds loops near a wished length and speed; one press takes one. */
export function LoopSolver({
  anchor,
  onClose,
  rig,
  index,
}: {
  anchor: Element | null
  onClose: () => void
  rig: Rig
  index: number
}) {
  return (
    <Popover
      open={!!anchor}
      anchorEl={anchor}
      onClose={onClose}
      anchorOrigin={{ vertical: 'top', horizontal: 'center' }}
      transformOrigin={{ vertical: 'bottom', horizontal: 'center' }}
    >
      {anchor && <Solver rig={rig} index={index} onTaken={onClose} />}
    </Popover>
  )
}

function Solver({ rig, index, onTaken }: { rig: Rig; index: number; onTaken: () => void }) {
  const { roles } = useTheme()
  const doc = useBench((b) => b.doc)!
  const info = useBench((b) => b.answer?.readout.rigs[index])
  const count = doc.range.last - doc.range.first + 1
  const units = doc.units ?? 'mm'
  const now = info ? ((info.travelRange[1] - info.travelRange[0]) / count) * doc.fps : 0
  const [frames, setFrames] = useState(count)
  const [speed, setSpeed] = useState(Math.abs(now) > 1e-9 ? now : 0.5)
  const { data, error } = useQuery({
    queryKey: ['loops', doc, rig.id, frames, speed],
    queryFn: () => solveLoop(doc, rig.id, frames, speed),
    retry: false,
  })
  return (
    <Box role="dialog" aria-label="Loop" sx={{ p: 1.5, width: 420, minHeight: 322 }}>
      <Box component="h3" sx={{ typography: 'h3', m: 0, mb: 1 }}>
        A loop for {rig.name}
      </Box>
      <Pair>
        <NumberField
          label="Wished length"
          value={frames}
          quantity="count"
          unit="frames"
          min={1}
          max={100000}
          onCommit={(v) => setFrames(Math.round(v))}
        />
        <NumberField label="Rough speed" value={speed} quantity="speed" onCommit={setSpeed} />
      </Pair>
      {error && <Box sx={{ mt: 1, color: roles.redText }}>{error.message}</Box>}
      <Box sx={{ mt: 1, display: 'grid', gap: '2px' }}>
        {data?.offers.map((o) => (
          <Button
            key={o.frames}
            data-testid="loop-offer"
            onClick={() => {
              useBench.getState().edit(`loop in ${o.frames} frames`, (d) => {
                for (const e of o.edits) setAt(d, e.path, e.value)
              })
              onTaken()
            }}
            sx={{
              display: 'grid',
              gridTemplateColumns: '70px 96px 76px 1fr',
              textAlign: 'left',
              justifyContent: 'stretch',
              color: roles.ink,
              fontWeight: 400,
              px: 1,
              minHeight: 28,
            }}
          >
            <span style={{ fontFamily: mono }}>{o.frames} f</span>
            <span style={{ fontFamily: mono }}>{showWithUnit(o.speed, 'speed', units)}</span>
            <Box component="span" sx={{ fontFamily: mono, color: roles.secondary }}>
              {Math.abs(o.change) < 5e-5
                ? 'as wished'
                : `${o.change > 0 ? '+' : '−'}${Math.abs(100 * o.change).toFixed(2)} %`}
            </Box>
            <Box component="span" sx={{ color: o.error > 1e-9 ? roles.amberText : roles.kelpText, fontWeight: 600 }}>
              {o.error > 1e-9 ? `others miss by ${Number(o.error.toPrecision(3))}` : 'all meets'}
            </Box>
          </Button>
        ))}
      </Box>
      <Box sx={{ mt: 1, fontSize: 11, color: roles.secondary }}>
        Length, speed and its change, and what all else that repeats misses by. A press takes it: the speed and the last
        frame are set.
      </Box>
    </Box>
  )
}
