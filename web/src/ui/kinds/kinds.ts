import type { Rig } from '../../core/page.generated'
import { kindOf, type RigKind } from '../../core/rigs'
import { body } from './body'
import { cycle } from './cycle'
import { drape } from './drape'
import { drum } from './drum'
import type { KindOfRig } from './kind'
import { payout } from './payout'
import { rider } from './rider'
import { train } from './train'

/** All kinds of rigs, in the order of the rack's menu. */
export const kinds: Record<RigKind, KindOfRig> = { train, body, rider, drape, drum, payout, cycle }

export const kindIn = (rig: Rig): KindOfRig => kinds[kindOf(rig)]
