import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import { useTheme } from '@mui/material/styles'
import type { Document } from '../../core/page.generated'
import { slotsOf } from '../../core/slots'
import { firstStep, stepForms, stepKind, type StepKind } from '../../core/forms'
import { blendsOf, ownOf } from '../../core/rigs'
import { useBench } from '../../stores/bench'
import { Choice, Pair } from '../fields/fields'
import { AutoField } from '../fields/AutoField'
import { NumberField } from '../fields/NumberField'
import { useRig, type StepProps } from './RigSteps'
import { SlotField } from '../fields/SlotField'

const lively = ['wave', 'lag', 'jitter'] as const

/** What a wave's value is called where there is little room. */
function waveLabel(name: string) {
  const [, number, what] = /^wave (\d* ?)(\w+)$/.exec(name)!
  return stepForms.wave.fields.find((f) => f.key === what)!.label + (number ? ` ${number}` : '')
}

/** Liveliness: waves and lag on the path, other shapes of the part, leaning into bends. */
export function LivelyStep({ rig, index }: StepProps) {
  const { roles } = useTheme()
  const { edit, info, on, sets } = useRig(index)
  const doc = useBench((b) => b.doc)!
  const pathAt = doc.paths.findIndex((p) => p.id === rig.path)
  const path = doc.paths[pathAt]
  const length = useBench((b) => b.answer?.readout.paths[pathAt]?.length) ?? 1
  const steps = path?.steps ?? []
  const slots = slotsOf(doc, 'rig', rig.id)
  const waves = slotsOf(doc, 'path', rig.path)
  const offered = info?.body?.blends ?? []
  const bank = rig.facing.bank
  const add = (kind: StepKind) =>
    edit(`${stepForms[kind].name.toLowerCase()} ${path!.name}`, (d: Document) => {
      const p = d.paths[pathAt]!
      p.steps = [...(p.steps ?? []), firstStep(kind, length)]
    })
  return (
    <Box sx={{ display: 'grid', gap: 1.25 }}>
      {offered.map((name) => {
        const k = blendsOf(rig).findIndex((b) => b.name === name)
        const slot = k < 0 ? undefined : slots.find((s) => s.key === `blend${k + 1}`)
        return (
          <Box key={name} role="group" aria-label={`Blend ${name}`}>
            {slot ? (
              <SlotField slot={slot} label={`Blend ${name}, 0–1`} />
            ) : (
              <Button
                variant="outlined"
                fullWidth
                onClick={() =>
                  edit(
                    `blend ${name}`,
                    on((r) => void (ownOf(r).blends = [...blendsOf(r), { name, amount: 0 }])),
                  )
                }
              >
                Use the blend {name}
              </Button>
            )}
          </Box>
        )
      })}
      {waves.length > 0 && (
        <Pair>
          {waves.map((s) => (
            <Box key={s.ref} sx={{ minWidth: 0, gridColumn: s.key.endsWith('phase') ? '1 / -1' : undefined }}>
              <SlotField slot={s} label={waveLabel(s.name)} />
            </Box>
          ))}
        </Pair>
      )}
      {steps.some((s) => (lively as readonly string[]).includes(stepKind(s))) && (
        <Box sx={{ fontSize: 11, color: roles.secondary }}>
          On {path?.name}:{' '}
          {steps
            .map(stepKind)
            .filter((k) => (lively as readonly string[]).includes(k))
            .map((k) => stepForms[k].name.toLowerCase())
            .join(', ')}
          . Their fields are in the path’s shaping steps.
        </Box>
      )}
      <Box sx={{ display: 'flex', gap: 0.75 }}>
        {lively.map((k) => (
          <Button key={k} variant="outlined" sx={{ flex: 1 }} onClick={() => add(k)} title={stepForms[k].text}>
            Add {stepForms[k].name.toLowerCase()}
          </Button>
        ))}
      </Box>
      <Choice
        label="Into bends"
        value={bank ? 'leans' : 'upright'}
        options={['upright', 'leans'] as const}
        names={{ upright: 'stays upright', leans: 'leans as its speed asks' }}
        onChange={(v) =>
          edit(
            v === 'leans' ? 'lean into bends' : 'stay upright',
            on((r) => void (r.facing.bank = v === 'leans' ? { share: 1 } : undefined)),
          )
        }
      />
      {bank && (
        <Pair>
          <NumberField
            label="Lean, share of what the speed asks"
            value={bank.share}
            quantity="plain"
            unit="×"
            at="rigs/*/facing/bank/share"
            {...sets('set the lean', (r, v: number) => void (r.facing.bank!.share = v))}
          />
          <AutoField
            label="Bend averaged over"
            word="a tenth of the path"
            start={Number((length / 10).toPrecision(3))}
            value={bank.over || undefined}
            quantity="distance"
            at="rigs/*/facing/bank/over"
            onSet={(v) =>
              edit(
                'set what a bend is averaged over',
                on((r) => void (r.facing.bank!.over = v)),
              )
            }
            {...sets('set what a bend is averaged over', (r, v: number) => void (r.facing.bank!.over = v || undefined))}
          />
          <NumberField
            label="Leans before the bend"
            value={bank.lead ?? 0}
            quantity="plain"
            unit="frames"
            {...sets('lean before the bend', (r, v: number) => void (r.facing.bank!.lead = v || undefined))}
          />
          <AutoField
            label="At most"
            word="as the speed asks"
            start={15}
            value={bank.limit || undefined}
            quantity="angle"
            at="rigs/*/facing/bank/limit"
            onSet={(v) =>
              edit(
                'set how far it leans',
                on((r) => void (r.facing.bank!.limit = v)),
              )
            }
            {...sets('set how far it leans', (r, v: number) => void (r.facing.bank!.limit = v || undefined))}
          />
        </Pair>
      )}
    </Box>
  )
}
