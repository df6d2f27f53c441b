import Box from '@mui/material/Box'
import { useTheme } from '@mui/material/styles'
import { showWithUnit } from '../../core/units'
import { Figure } from '../fields/fields'
import { Remedies } from '../panels/Remedies'
import { MaterialPick } from './MaterialPick'
import { KindFields } from './KindFields'
import { useRig, type StepProps } from './RigSteps'

/** Drum: its measures and its rope, and what it holds. */
export function DrumStep({ rig, index }: StepProps) {
  const { roles } = useTheme()
  const { units, info } = useRig(index)
  const drum = info?.drum
  const s = (v: number, q: 'length' | 'distance' = 'length') => showWithUnit(v, q, units)
  return (
    <Box sx={{ display: 'grid', gap: 1.25 }}>
      <KindFields rig={rig} index={index} />
      <MaterialPick
        label="Material of the rope"
        value={rig.drum!.material}
        otherwise="Rope"
        onChange={`make the rope of ${rig.name} of another material`}
        set={(d, id) => void (d.rigs[index]!.drum!.material = id)}
      />
      <Box sx={{ fontSize: 11, color: roles.secondary }}>
        Travel is how much rope it has paid out. The start of the cable is its hub: the rope leaves it on its tangent.
      </Box>
      {drum && (
        <Box sx={{ display: 'grid', gap: 0.5 }}>
          <Figure
            label="On it at first"
            value={`${drum.turns.toFixed(1)} turns`}
            word={`${drum.layers} ${drum.layers === 1 ? 'layer' : 'layers'}`}
          />
          <Figure label="Across its rope" value={s(drum.diameter)} />
          <Figure label="Hangs at first" value={s(drum.hangs, 'distance')} />
          <Figure label="Runs out" value={drum.runsOut === undefined ? 'after the range' : `frame ${drum.runsOut}`} />
        </Box>
      )}
      <Remedies id="tension" rig={rig.id} />
    </Box>
  )
}
