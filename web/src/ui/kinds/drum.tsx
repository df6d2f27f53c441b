import { addDrum, paysOut } from '../../core/add'
import { DrumIcon } from '../../look/icons'
import { DrumStep } from '../recipe/DrumStep'
import type { KindOfRig } from './kind'

export const drum: KindOfRig = {
  sign: <DrumIcon />,
  opens: 'drum',
  row: 'drum',
  steps: ({ rig, index, info }) => [
    [
      'drum',
      'Drum',
      info?.drum ? `${info.drum.turns.toFixed(1)} turns in ${info.drum.layers} layers` : '',
      <DrumStep key="drum" rig={rig} index={index} />,
    ],
  ],
  fields: { drum: ['radius', 'width', 'rope', 'wound'] },
  add: ({ doc, path }) => {
    const cable = [path, ...doc.paths].find((p) => paysOut(p) && !paysOut(p)!.drum)
    return {
      name: `Drum that pays out ${cable?.name ?? 'a cable'}`,
      picture: 'M5 2v11M14 2v11M5 4h9M5 7h9M5 10h9M14 4c5 0 6 4 7 10',
      label: 'add a drum',
      on: cable,
      wants: 'Make a hanging cable or an open belt first',
      make: addDrum,
    }
  },
}
