import Box from '@mui/material/Box'
import { slotsOf } from '../../core/slots'
import { leadOf, ownOf } from '../../core/rigs'
import { useBench } from '../../stores/bench'
import { Pick } from '../fields/fields'
import { AutoField } from '../fields/AutoField'
import { NumberField } from '../fields/NumberField'
import { useRig, type StepProps } from './RigSteps'
import { SlotField } from '../fields/SlotField'

const places = ['head', 'middle', 'tail', 'piece'] as const

/** Lead: which rig a rider goes along with, where on it, and how far ahead. */
export function LeadStep({ rig, index }: StepProps) {
  const { edit, on, sets } = useRig(index)
  const doc = useBench((b) => b.doc)!
  const lead = leadOf(rig)
  const others = doc.rigs.filter((r) => r.id !== rig.id)
  const target = doc.rigs.find((r) => r.id === lead?.rig)
  const count = useBench((b) => b.answer?.readout.rigs.find((r) => r.id === lead?.rig)?.count) ?? 1
  const slots = slotsOf(doc, 'rig', rig.id)
  return (
    <Box sx={{ display: 'grid', gap: 1.25 }}>
      <Pick
        label="Goes along with"
        value={lead?.rig ?? ''}
        options={['', ...others.map((r) => r.id)]}
        names={{ '': 'nothing, by its own travel', ...Object.fromEntries(others.map((r) => [r.id, r.name])) }}
        onChange={(to) =>
          edit(
            to ? 'go along with a rig' : 'go by its own travel',
            on((r) => void (ownOf(r).lead = to ? { rig: to, at: 'head' } : undefined)),
          )
        }
      />
      {lead && target && !target.rider && (
        <Pick
          label={`Where on ${target.name}`}
          value={lead.at ?? 'head'}
          options={places.filter((p) => p !== 'piece' || target.train)}
          onChange={(at) =>
            edit(
              `go at the ${at}`,
              on((r) => void (ownOf(r).lead = { ...leadOf(r)!, at })),
            )
          }
        />
      )}
      {lead?.at === 'piece' && (
        <NumberField
          label="Piece"
          value={lead.piece ?? 1}
          quantity="count"
          min={1}
          max={count}
          onCommit={(v) =>
            edit(
              'go at another piece',
              on((r) => void (leadOf(r)!.piece = Math.round(v))),
            )
          }
        />
      )}
      {slots[0] && <SlotField slot={slots[0]} label={lead ? 'Ahead by (negative: behind)' : 'Distance'} />}
      {slots[1] && <SlotField slot={slots[1]} label="Offset" />}
      {rig.rider && (
        <AutoField
          label="Rolls on a radius of"
          at="rigs/*/rider/rolling"
          word="does not roll"
          start={0.1}
          value={rig.rider.rolling || undefined}
          quantity="length"
          onSet={(v) =>
            edit(
              v ? 'roll on a radius' : 'do not roll',
              on((r) => void (r.rider!.rolling = v)),
            )
          }
          {...sets('roll on a radius', (r, v: number) => void (r.rider!.rolling = v || undefined))}
        />
      )}
      {rig.rider && (
        <Pick
          inline
          label="Past the end"
          value={rig.rider.pastEnd ?? 'straight on'}
          options={['straight on', 'come round'] as const}
          onChange={(v) =>
            edit(
              `${v} past the end`,
              on((r) => void (r.rider!.pastEnd = v)),
            )
          }
        />
      )}
    </Box>
  )
}
