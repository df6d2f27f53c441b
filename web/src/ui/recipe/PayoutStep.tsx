import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import { useTheme } from '@mui/material/styles'
import { showWithUnit } from '../../core/units'
import { useBench } from '../../stores/bench'
import { Figure } from '../fields/fields'
import { Remedies } from '../panels/Remedies'
import { MaterialPick } from './MaterialPick'
import { KindFields } from './KindFields'
import { useRig, type StepProps } from './RigSteps'

/** Roll: the sheet and its core, and how far it reaches. */
export function PayoutStep({ rig, index }: StepProps) {
  const { roles } = useTheme()
  const { edit, units, info, on } = useRig(index)
  const path = useBench((b) => b.answer?.readout.paths.find((p) => p.id === rig.path))
  const payout = info?.payout
  const s = (v: number, q: 'length' | 'distance' = 'length') => showWithUnit(v, q, units)
  const fine = (v: number) => Number(v.toPrecision(12))
  const away = rig.payout!.winds ? 'Its end is off the ground' : 'Runs out'
  return (
    <Box sx={{ display: 'grid', gap: 1.25 }}>
      <KindFields rig={rig} index={index} />
      <MaterialPick
        label="Material of the sheet"
        value={rig.payout!.material}
        otherwise="Matting"
        onChange={`make the sheet of ${rig.name} of another material`}
        set={(d, id) => void (d.rigs[index]!.payout!.material = id)}
      />
      <Box sx={{ fontSize: 11, color: roles.secondary }}>
        Travel is where the sheet meets the roll. When the sheet has run out it rolls on by a value of its own.
      </Box>
      {payout && path && (
        <Box sx={{ display: 'grid', gap: 0.5 }}>
          <Figure label="Sheet" value={s(payout.capacity, 'distance')} word={`${payout.turns.toFixed(1)} turns`} />
          <Figure
            label="Reaches"
            value={s(payout.reaches, 'distance')}
            word={
              path.closed
                ? `${(payout.capacity / path.length).toFixed(2)} rounds`
                : Math.abs(payout.capacity - path.length) < 1e-6
                  ? 'the path’s end'
                  : payout.reaches < payout.capacity
                    ? 'past the path’s end'
                    : `${s(path.length - payout.capacity, 'distance')} short`
            }
          />
          <Figure
            label={away}
            value={payout.runsOut === undefined ? 'after the range' : `frame ${payout.runsOut.toFixed(1)}`}
          />
        </Box>
      )}
      {payout && path && Math.abs(payout.capacity - path.length) > 1e-6 && (
        <Box sx={{ display: 'grid', gap: 0.75 }}>
          <Button
            variant="outlined"
            onClick={() =>
              edit(
                'end the sheet where the path ends, by its radius',
                on((r) => void (r.payout!.radius = fine(payout.fitRadius))),
              )
            }
          >
            End with the path: radius {s(payout.fitRadius)}
          </Button>
          <Button
            variant="outlined"
            onClick={() =>
              edit(
                'end the sheet where the path ends, by its thickness',
                on((r) => void (r.payout!.thickness = fine(payout.fitThickness))),
              )
            }
          >
            End with the path: thickness {s(payout.fitThickness)}
          </Button>
        </Box>
      )}
      {['contact', 'dips', 'strain', 'floor'].map((id) => (
        <Remedies key={id} id={id} rig={rig.id} />
      ))}
    </Box>
  )
}
