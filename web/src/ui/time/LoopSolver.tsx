import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Popover from '@mui/material/Popover'
import { useTheme } from '@mui/material/styles'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { solveLoop } from '../../api/client'
import type { LoopOffer, Rig } from '../../core/page.generated'
import { showWithUnit } from '../../core/units'
import { setAt } from '../../core/value'
import { useBench } from '../../stores/bench'
import { Pair } from '../fields/fields'
import { NumberField } from '../fields/NumberField'
import { mono } from '../../look/theme'

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

const columns = '64px 104px 76px 1fr'

/** Nothing else of the scene misses. */
const whole = (o: LoopOffer) => !o.text.includes('does not loop')

/** What taking an offer does beside setting the rig's speed. */
function whatElse(o: LoopOffer): string {
  const others = o.edits.length - 2
  if (!whole(o)) return 'another rig does not loop'
  return others > 0 ? `with ${others} more ${others === 1 ? 'speed' : 'speeds'}` : 'all meets'
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
  const { data, error, isFetching } = useQuery({
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
      {data && data.offers.length > 0 && (
        <Box
          sx={{
            mt: 1,
            px: 1,
            display: 'grid',
            gridTemplateColumns: columns,
            fontSize: 11,
            color: roles.secondary,
          }}
        >
          <span>Length</span>
          <span>Speed</span>
          <span>Change</span>
          <span>What else</span>
        </Box>
      )}
      <Box sx={{ mt: 0.25, display: 'grid', gap: '2px' }}>
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
              gridTemplateColumns: columns,
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
                ? 'none'
                : `${o.change > 0 ? '+' : '−'}${Math.abs(100 * o.change).toFixed(2)} %`}
            </Box>
            <Box component="span" title={o.text} sx={{ color: whole(o) ? roles.kelpText : roles.amberText }}>
              {whatElse(o)}
            </Box>
          </Button>
        ))}
      </Box>
      <Box sx={{ mt: 1, fontSize: 11, color: roles.secondary }}>
        {isFetching ? 'Trying loops out…' : data?.note}
        {data && data.offers.length > 0 && 'Each has been tried out and meets. A press takes it.'}
      </Box>
    </Box>
  )
}
