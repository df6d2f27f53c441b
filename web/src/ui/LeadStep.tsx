import Box from '@mui/material/Box'
import { slotsOf } from '../core/keys'
import { useBench } from '../stores/bench'
import { Pick } from './fields'
import { NumberField } from './NumberField'
import { useRig, type StepProps } from './RigSteps'
import { SlotField } from './SlotField'

const places = ['head', 'middle', 'tail', 'piece'] as const

/** Lead: which rig a rider goes along with, where on it, and how far ahead. */
export function LeadStep({ rig, index }: StepProps) {
  const { edit, on, sets } = useRig(index)
  const doc = useBench((b) => b.doc)!
  const others = doc.rigs.filter((r) => r.id !== rig.id)
  const target = doc.rigs.find((r) => r.id === rig.lead?.rig)
  const count = useBench((b) => b.answer?.readout.rigs.find((r) => r.id === rig.lead?.rig)?.count) ?? 1
  const slots = slotsOf(doc, 'rig', rig.id)
  return (
    <Box sx={{ display: 'grid', gap: 1.25 }}>
      <Pick
        label="Goes along with"
        value={rig.lead?.rig ?? ''}
        options={['', ...others.map((r) => r.id)]}
        names={{ '': 'nothing, by its own travel', ...Object.fromEntries(others.map((r) => [r.id, r.name])) }}
        onChange={(to) =>
          edit(
            to ? 'go along with a rig' : 'go by its own travel',
            on((r) => void (r.lead = to ? { rig: to, at: 'head' } : undefined)),
          )
        }
      />
      {rig.lead && target && target.kind !== 'rider' && (
        <Pick
          label={`At which place of ${target.name}`}
          value={rig.lead.at ?? 'head'}
          options={places.filter((p) => p !== 'piece' || target.kind === 'train')}
          onChange={(at) =>
            edit(
              `go at the ${at}`,
              on((r) => void (r.lead = { ...r.lead!, at })),
            )
          }
        />
      )}
      {rig.lead?.at === 'piece' && (
        <NumberField
          label="Piece"
          value={rig.lead.piece ?? 1}
          quantity="count"
          min={1}
          max={count}
          onCommit={(v) =>
            edit(
              'go at another piece',
              on((r) => void (r.lead!.piece = Math.round(v))),
            )
          }
        />
      )}
      {slots[0] && <SlotField slot={slots[0]} label={rig.lead ? 'Lead, below 0 lag' : 'Distance'} />}
      {slots[1] && <SlotField slot={slots[1]} label="Offset" />}
      {rig.kind === 'rider' && (
        <NumberField
          label="Rolls on a radius of, 0: it does not roll"
          value={rig.rolling ?? 0}
          quantity="length"
          min={0}
          {...sets('roll on a radius', (r, v: number) => void (r.rolling = v || undefined))}
        />
      )}
      {rig.kind === 'rider' && (
        <Pick
          inline
          label="Past the end"
          value={rig.pastEnd ?? 'straight on'}
          options={['straight on', 'come round'] as const}
          onChange={(v) =>
            edit(
              `${v} past the end`,
              on((r) => void (r.pastEnd = v)),
            )
          }
        />
      )}
    </Box>
  )
}
