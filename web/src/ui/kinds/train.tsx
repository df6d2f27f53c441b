import { addTrain } from '../../core/add'
import { seatOf } from '../../core/rigs'
import { TrainIcon } from '../../look/icons'
import { ArrivalsFields } from '../recipe/ArrivalsFields'
import { FallFields } from '../recipe/FallFields'
import { SpacingStep } from '../recipe/RigSteps'
import { onto, wantsPath, type KindOfRig } from './kind'
import { livelyStep, seatStep } from './seat'

export const train: KindOfRig = {
  sign: <TrainIcon />,
  opens: 'spacing',
  row: 'pieces',
  steps: (c) => [
    seatStep(c),
    [
      'spacing',
      'Spacing',
      c.info
        ? `${c.pieces}${c.rig.train!.spacing.mode === 'scatter' ? ' scattered, mean' : ', pitch'} ${c.show(c.info.pitch)}${c.info.comesRound ? `, seam ${c.show(c.seam ?? c.info.seam)}` : ''}`
        : '',
      <SpacingStep key="spacing" rig={c.rig} index={c.index} />,
    ],
  ],
  after: (c) => (seatOf(c.rig) === 'bent' ? [livelyStep(c)] : []),
  travels: (rig, index) => (
    <>
      <ArrivalsFields rig={rig} index={index} />
      <FallFields rig={rig} index={index} />
    </>
  ),
  fields: {
    seat: ['seat'],
    spacing: ['spacing', 'pastEnd', 'others'],
    lively: ['blends'],
    travel: ['arrive', 'leave'],
  },
  add: ({ path, length }) => ({
    name: `Pieces in a row${onto(path)}`,
    picture: 'M2 8h20M4 6h3v4H4zm6.5 0h3v4h-3zM17 6h3v4h-3z',
    label: 'add a train',
    on: path,
    wants: wantsPath,
    make: (d, on) => addTrain(d, on, length),
  }),
}
