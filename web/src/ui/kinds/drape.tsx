import { addDrape } from '../../core/add'
import { ClothIcon } from '../../look/icons'
import { ClothStep } from '../recipe/ClothStep'
import { onto, wantsPath, type KindOfRig } from './kind'

export const drape: KindOfRig = {
  sign: <ClothIcon />,
  opens: 'cloth',
  row: 'cloth',
  plain: true,
  steps: ({ rig, index, info }) => [
    [
      'cloth',
      'Cloth',
      info?.cloth
        ? `${info.cloth.points} points, ${info.cloth.held} held${info.cloth.fullness > 1.001 ? `, ${info.cloth.fullness.toFixed(2)} × full` : ''}`
        : '',
      <ClothStep key="cloth" rig={rig} index={index} />,
    ],
  ],
  fields: {
    cloth: ['hang', 'every', 'points', 'fit', 'tail', 'head', 'count', 'pitch', 'fabric', 'flow', 'ease', 'substeps'],
  },
  add: ({ path, part }) => ({
    name: `Cloth that hangs${onto(path)}`,
    picture: 'M2 2.5h20M4 3v9c3 2 5-1 8 0s5 2 8-1V3M9 3v7m6-7v7',
    label: 'add a cloth',
    on: path,
    wants: wantsPath,
    make: (d, on) => addDrape(d, on, part),
  }),
}
