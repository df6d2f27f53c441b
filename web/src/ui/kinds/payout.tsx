import { addPayout } from '../../core/add'
import { RollIcon } from '../../look/icons'
import { PayoutStep } from '../recipe/PayoutStep'
import { RollRadius } from '../strip/RollRadius'
import { onto, wantsPath, type KindOfRig } from './kind'

export const payout: KindOfRig = {
  sign: <RollIcon />,
  opens: 'payout',
  row: 'sheet',
  steps: ({ rig, index, info, show }) => [
    [
      'payout',
      'Roll',
      info?.payout ? `${show(info.payout.capacity, 'distance')} of sheet, ${info.payout.turns.toFixed(1)} turns` : '',
      <PayoutStep key="payout" rig={rig} index={index} />,
    ],
  ],
  fields: { payout: ['width', 'thickness', 'radius', 'core', 'away'] },
  add: ({ path, length }) => ({
    name: `Roll that lays out a sheet${onto(path)}`,
    picture: 'M2 13.5h16a5 5 0 1 0-5-5 3 3 0 1 0 5-2.4 1.2 1.2 0 1 0-1.4 2',
    label: 'add a roll',
    on: path,
    wants: wantsPath,
    make: (d, on) => addPayout(d, on, length),
  }),
  strip: (rig, x, length) => <RollRadius payout={rig.payout!} x={x} length={length} />,
}
