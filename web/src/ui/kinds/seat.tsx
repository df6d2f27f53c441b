import { leadOf, seatOf } from '../../core/rigs'
import { LeadStep } from '../recipe/LeadStep'
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
