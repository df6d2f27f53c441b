import type { ReactNode } from 'react'
import Box from '@mui/material/Box'
import { useTheme } from '@mui/material/styles'
import { slotsOf } from '../../core/slots'
import { leadOf } from '../../core/rigs'
import { isKeyed } from '../../core/value'
import { useBench } from '../../stores/bench'
import { Pick } from '../fields/fields'
import { Remedies } from '../panels/Remedies'
import { useRig, type StepProps } from './RigSteps'
import { ValueSource } from '../fields/ValueSource'

/** Travel: what moves the rig, with whom it keeps step, and what more its kind has. */
export function TravelStep({ rig, index, more }: StepProps & { more?: ReactNode }) {
  const { roles } = useTheme()
  const { edit, pieces, on } = useRig(index)
  const doc = useBench((b) => b.doc)!
  const slot = slotsOf(doc, 'rig', rig.id)[0]
  const others = doc.rigs.filter((r) => r.id !== rig.id)
  if (!slot) return null
  return (
    <Box sx={{ display: 'grid', gap: 1.25 }}>
      <ValueSource
        slot={slot}
        label={leadOf(rig) ? 'Ahead by (negative: behind)' : 'Travel'}
        present={pieces?.travel ?? 0}
      />
      {isKeyed(rig.travel) && (
        <Box sx={{ fontSize: 11, color: roles.secondary }}>
          Pull a piece in the view, or press Key in the time strip, to set a key.
        </Box>
      )}
      <Remedies id="loop" rig={rig.id} />
      <Remedies id="slip" rig={rig.id} />
      {more}
      {others.length > 0 && (
        <Pick
          inline
          label="In step with"
          value={rig.inStep ?? ''}
          options={['', ...others.map((r) => r.id)]}
          names={{ '': 'nothing', ...Object.fromEntries(others.map((r) => [r.id, r.name])) }}
          onChange={(to) =>
            edit(
              to ? 'compare steps' : 'compare no steps',
              on((r) => void (r.inStep = to || undefined)),
            )
          }
        />
      )}
      <Remedies id="step" rig={rig.id} />
    </Box>
  )
}
