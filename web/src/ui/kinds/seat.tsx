import { blendsOf, leadOf, seatOf } from '../../core/rigs'
import { LeadStep } from '../recipe/LeadStep'
import { LivelyStep } from '../recipe/LivelyStep'
import { SeatStep } from '../recipe/RigSteps'
import type { RecipeStep, StepContext } from './kind'

// Steps that several kinds have.

const seats = { bent: 'Bent to the path', ends: 'On both its pins, rigid', pivot: 'On its pivot, rigid' } as const

/** How its pieces sit. */
export function seatStep({ rig, index }: StepContext): RecipeStep {
  const scaled = (rig.scale ?? 1) !== 1 ? `, scaled ${rig.scale}` : ''
  return ['seat', 'Seat', seats[seatOf(rig)] + scaled, <SeatStep key="seat" rig={rig} index={index} />]
}

/** What it goes along with. */
export function leadStep({ rig, index, doc }: StepContext): RecipeStep {
  const lead = leadOf(rig)
  return [
    'lead',
    'Lead',
    lead
      ? `Goes along with ${doc.rigs.find((r) => r.id === lead.rig)?.name ?? ''}, at its ${lead.at ?? 'head'}`
      : 'Goes by its own travel',
    <LeadStep key="lead" rig={rig} index={index} />,
  ]
}

/** What gives a body life: blends of its part, and what its path does. */
export function livelyStep({ rig, index, doc }: StepContext): RecipeStep {
  const path = doc.paths.find((p) => p.id === rig.path)
  const lively = [
    ...blendsOf(rig).map((b) => `blend ${b.name}`),
    ...(path?.steps ?? []).flatMap((x) => (x.wave ? ['wave'] : x.lag ? ['lag'] : x.jitter ? ['jitter'] : [])),
    ...(rig.facing.bank ? ['leans'] : []),
  ]
  return [
    'lively',
    'Liveliness',
    lively.join(', ') || 'Waves, lag, blends: none yet',
    <LivelyStep key="lively" rig={rig} index={index} />,
  ]
}
