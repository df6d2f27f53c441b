import { rigForms } from './forms'
import type { BlendAmount, Lead, Rig, Spacing } from './page.generated'

// What rigs of all kinds have, wherever their kind keeps it.

/** The words of the kinds: what a rig has one of, beside what all rigs have. */
export type RigKind = Exclude<
  keyof Rig,
  'id' | 'name' | 'path' | 'part' | 'scale' | 'facing' | 'travel' | 'offset' | 'inStep' | 'tints'
>

/** How pieces sit on the path. */
export type Seat = 'pivot' | 'ends' | 'bent'

/** What a rig is. */
export const kindOf = (r: Rig): RigKind => (Object.keys(rigForms) as RigKind[]).find((k) => r[k]) ?? 'train'

/** What a kind holds, as far as several kinds hold it. */
interface Own {
  seat?: Seat
  spacing?: Spacing
  lead?: Lead
  blends?: BlendAmount[]
}

/** What a rig's kind holds. */
export const ownOf = (r: Rig) => r[kindOf(r)] as Own

/** How its pieces sit on the path: as it says, else as those of its kind do. */
export const seatOf = (r: Rig): Seat => ownOf(r).seat ?? rigForms[kindOf(r)].seat!

/** What ties it to another rig. */
export const leadOf = (r: Rig): Lead | undefined => ownOf(r).lead

/** The other shapes of its part that it shows. */
export const blendsOf = (r: Rig) => ownOf(r).blends ?? []

/** What the ways of facing are called. */
export const facingNames = {
  loopside: 'outward of the loop',
  steady: 'fixed up',
  'least-twist': 'least twist',
  guide: 'towards a guide',
  turn: 'into the bend',
} as const
