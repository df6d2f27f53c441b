import { addRider } from '../../core/add'
import { RiderIcon } from '../../look/icons'
import { onto, wantsPath, type KindOfRig } from './kind'
import { leadStep, seatStep } from './seat'

export const rider: KindOfRig = {
  sign: <RiderIcon />,
  opens: 'lead',
  row: 'pieces',
  steps: (c) => [seatStep(c), leadStep(c)],
  fields: { lead: ['lead', 'rolling'] },
  add: ({ path }) => ({
    name: `Single rider${onto(path)}`,
    picture: 'M2 12C8 4 14 14 22 6M12 9.5V5m0-3 4 1.5L12 5z',
    label: 'add a rider',
    on: path,
    wants: wantsPath,
    make: addRider,
  }),
}
