import type { Lead, Rig } from './page.generated'

// What rigs of all kinds have, wherever their kind keeps it.

export const kindNames = {
  train: 'Train',
  rider: 'Rider',
  body: 'Body',
  payout: 'Payout',
  drape: 'Drape',
  drum: 'Drum',
  cycle: 'Cycle',
} as const

export type RigKind = keyof typeof kindNames

/** What a rig is. */
export const kindOf = (r: Rig): RigKind => (Object.keys(kindNames) as RigKind[]).find((k) => r[k]) ?? 'train'

/** How its pieces sit on the path. */
export const seatOf = (r: Rig) => r.train?.seat ?? (r.body ? 'bent' : 'pivot')

/** What ties it to another rig. */
export const leadOf = (r: Rig): Lead | undefined => (r.rider ?? r.body)?.lead

export function setLead(r: Rig, lead: Lead | undefined): void {
  const own = r.rider ?? r.body
  if (own) own.lead = lead
}

/** The other shapes of its part that it shows. */
export const blendsOf = (r: Rig) => (r.train ?? r.body)?.blends ?? []

/** What the ways of facing are called. */
export const facingNames = {
  loopside: 'outward of the loop',
  steady: 'fixed up',
  'least-twist': 'least twist',
  guide: 'towards a guide',
  turn: 'into the bend',
} as const
