import { FigureIcon } from '../../look/icons'
import { CycleStep } from '../recipe/CycleStep'
import type { KindOfRig } from './kind'

export const cycle: KindOfRig = {
  sign: <FigureIcon />,
  opens: 'cycle',
  row: 'figures',
  steps: ({ rig, index, info, show }) => [
    [
      'cycle',
      'Cycle',
      info?.cycle
        ? `${show(info.cycle.stride, 'distance')} in ${info.cycle.seconds.toFixed(2)} s, ${info.cycle.feet.length} feet${(rig.cycle!.count ?? 1) > 1 ? `, ${rig.cycle!.count} copies` : ''}`
        : '',
      <CycleStep key="cycle" rig={rig} index={index} />,
    ],
  ],
  fields: {
    cycle: ['stride', 'start', 'pace', 'follow', 'legs', 'feet', 'sets', 'layers', 'count', 'pitch', 'speeds', 'stray'],
  },
}
