import { addBody } from '../../core/add'
import { BodyIcon } from '../../look/icons'
import { BodyStep } from '../recipe/BodyStep'
import { onto, wantsPath, type KindOfRig } from './kind'
import { leadStep, livelyStep } from './seat'

const fits = {
  'own length': 'Keeps its own length',
  'whole path': 'Covers the whole path',
  reach: 'Reaches from tail to head',
} as const

export const body: KindOfRig = {
  sign: <BodyIcon />,
  opens: 'bend',
  row: 'body',
  steps: (c) => [
    [
      'bend',
      'Bend',
      `${fits[c.rig.body!.fit ?? 'own length']}${c.info?.body ? `, ${c.show(c.info.body.length, 'distance')}, ${c.info.body.sections} sections` : ''}`,
      <BodyStep key="bend" rig={c.rig} index={c.index} />,
    ],
    leadStep(c),
  ],
  after: (c) => [livelyStep(c)],
  fields: {
    bend: ['fit', 'anchor', 'tail', 'head', 'taper', 'twist', 'rounds', 'keepVolume', 'pastEnd'],
    lead: ['lead'],
    lively: ['blends'],
  },
  add: ({ path, part }) => ({
    name: `Body that bends${onto(path)}`,
    picture: 'M3 11C8 2 12 14 21 5l-1-2C11 12 8-1 2 9z',
    label: 'add a body',
    on: path,
    wants: wantsPath,
    make: (d, on) => addBody(d, on, part),
  }),
}
