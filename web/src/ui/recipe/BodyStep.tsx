import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import { useTheme } from '@mui/material/styles'
import { slotsOf } from '../../core/slots'
import { showWithUnit } from '../../core/units'
import { useBench } from '../../stores/bench'
import { BeadCurve } from '../fields/BeadCurve'
import { Choice, Figure, Pair, Pick } from '../fields/fields'
import { NumberField } from '../fields/NumberField'
import { Remedies } from '../panels/Remedies'
import { useRig, type StepProps } from './RigSteps'
import { SlotField } from '../fields/SlotField'

const fits = ['own length', 'whole path', 'reach'] as const
const meaning = {
  'own length': 'The body is as long on the path as it is by itself, and slides along it.',
  'whole path': 'The body is drawn out or pressed together until it covers the whole path.',
  reach: 'Tail and head each stand at a distance of their own: the body stretches out and closes up.',
} as const

/** Bend: how much of the path a body covers, and what becomes of its form. */
export function BodyStep({ rig, index }: StepProps) {
  const { roles } = useTheme()
  const { edit, units, info, on, sets } = useRig(index)
  const doc = useBench((b) => b.doc)!
  const own = rig.body ?? {}
  const fit = own.fit ?? 'own length'
  const slots = slotsOf(doc, 'rig', rig.id)
  const slot = (key: string) => slots.find((s) => s.key === key)
  const twist = slot('twist')
  const body = info?.body
  const path = useBench((b) => b.answer?.readout.paths.find((p) => p.id === rig.path))
  return (
    <Box sx={{ display: 'grid', gap: 1.25 }}>
      <Fit rig={rig} index={index} />
      {path?.closed === false && (
        <Choice
          label="Past the path’s ends"
          value={own.pastEnd === 'stop' ? 'stop' : 'straight on'}
          options={['straight on', 'stop'] as const}
          names={{ 'straight on': 'runs straight on', stop: 'stops there' }}
          onChange={(v) =>
            edit(
              v === 'stop' ? 'stop at the ends' : 'run straight on',
              on((r) => void (r.body!.pastEnd = v)),
            )
          }
        />
      )}
      {fit !== 'own length' && (
        <Choice
          label="When it is drawn out"
          value={own.keepVolume ? 'volume' : 'section'}
          options={['section', 'volume'] as const}
          names={{ section: 'keeps its section', volume: 'keeps its volume' }}
          onChange={(v) =>
            edit(
              `keep its ${v}`,
              on((r) => void (r.body!.keepVolume = v === 'volume' || undefined)),
            )
          }
        />
      )}
      <BeadCurve
        label="Thickness from tail to head"
        beads={(own.taper ?? []).map((b) => [b.at, b.scale])}
        from={0}
        to={1}
        top={1.5}
        quantity="plain"
        onChange={(beads) =>
          edit(
            'shape its thickness',
            on((r) => {
              r.body!.taper = beads.length ? beads.map(([at, scale]) => ({ at, scale })) : undefined
            }),
          )
        }
      />
      <Pair>
        {twist && <SlotField slot={twist} label="Twist" />}
        <NumberField
          label="Scale"
          at="rigs/*/scale"
          value={rig.scale ?? 1}
          quantity="plain"
          unit="×"
          {...sets('scale the body', (r, v: number) => void (r.scale = v))}
        />
      </Pair>
      <Rounds rig={rig} index={index} />
      {body && (
        <Box sx={{ borderTop: `1px solid ${roles.rule}`, pt: 1, display: 'grid', gap: 0.5 }}>
          <Figure
            label="On the path"
            value={`${showWithUnit(body.tail, 'distance', units)} – ${showWithUnit(body.head, 'distance', units)}`}
            word={`${Math.round(body.stretch * 100)} %`}
          />
          <Figure label="Sections that bend" value={String(body.sections)} word={`${body.vertices} vertices`} />
        </Box>
      )}
      <Remedies id="length" rig={rig.id} />
      <Remedies id="facets" rig={rig.id} />
      <Remedies id="fold" rig={rig.id} />
      <Remedies id="strain" rig={rig.id} />
      <Remedies id="ends" rig={rig.id} />
    </Box>
  )
}

/** How much of the path the body covers, and which of its places stands at the travel. */
function Fit({ rig, index }: StepProps) {
  const { roles } = useTheme()
  const { edit, info, on } = useRig(index)
  const doc = useBench((b) => b.doc)!
  const own = rig.body ?? {}
  const fit = own.fit ?? 'own length'
  const slots = slotsOf(doc, 'rig', rig.id)
  const tail = slots.find((s) => s.key === 'tail')
  const head = slots.find((s) => s.key === 'head')
  const body = info?.body
  return (
    <>
      <Choice
        label="How much of the path it covers"
        value={fit}
        options={fits}
        onChange={(v) =>
          edit(
            v,
            on((r) => {
              r.body!.fit = v
              if (v === 'reach' && r.body!.head === undefined) {
                r.body!.tail = 0
                r.body!.head = body?.length ?? 1
              }
            }),
          )
        }
      />
      <Box sx={{ color: roles.secondary, fontSize: 11 }}>{meaning[fit]}</Box>
      {fit === 'own length' && (
        <Choice
          label="Its place at the travel"
          value={own.anchor ?? 'tail'}
          options={['tail', 'middle', 'head'] as const}
          onChange={(v) =>
            edit(
              `hold it by its ${v}`,
              on((r) => void (r.body!.anchor = v)),
            )
          }
        />
      )}
      {fit === 'reach' && tail && head && (
        <Pair>
          <SlotField slot={tail} label="Tail at" />
          <SlotField slot={head} label="Head at" />
        </Pair>
      )}
      <Button
        variant="outlined"
        onClick={() =>
          edit(
            'put it at the start of the path',
            on((r) => {
              const share = { tail: 0, middle: 0.5, head: 1 }[r.body!.anchor ?? 'tail']
              if (typeof r.travel === 'object') return
              r.travel = (r.body!.fit ?? fit) === 'own length' ? share * (body?.length ?? 0) : 0
              if (r.body!.fit === 'reach' && typeof r.body!.tail !== 'object' && typeof r.body!.head !== 'object') {
                r.body!.head = (r.body!.head ?? 0) - (r.body!.tail ?? 0)
                r.body!.tail = 0
              }
            }),
          )
        }
        disabled={typeof rig.travel === 'object'}
      >
        Put it at the path’s start
      </Button>
    </>
  )
}

/** Copies of the body, one for each round of the path. */
function Rounds({ rig, index }: StepProps) {
  const { edit, on, sets } = useRig(index)
  const doc = useBench((b) => b.doc)!
  const path = useBench((b) => b.answer?.readout.paths.find((p) => p.id === rig.path))
  const rounds = rig.body?.rounds
  return (
    <>
      <Choice
        label="Copies"
        value={rounds ? 'rounds' : 'one'}
        options={['one', 'rounds'] as const}
        names={{ one: 'one body', rounds: 'a copy each round' }}
        onChange={(v) =>
          edit(
            v === 'one' ? 'make it one body' : 'make a copy for each round',
            on((r) => {
              r.body!.rounds =
                v === 'one'
                  ? undefined
                  : { count: 4, frames: doc.range.last - doc.range.first + 1, stride: (path?.length ?? 4) / 4 }
            }),
          )
        }
      />
      {rounds && (
        <Pair>
          <NumberField
            label="Rounds"
            at="rigs/*/body/rounds/count"
            value={rounds.count}
            quantity="count"
            {...sets('set the rounds', (r, v: number) => void (r.body!.rounds!.count = Math.round(v)))}
          />
          <NumberField
            label="Frames a round"
            at="rigs/*/body/rounds/frames"
            value={rounds.frames}
            quantity="count"
            {...sets('set the frames of a round', (r, v: number) => void (r.body!.rounds!.frames = v))}
          />
          <NumberField
            label="Stride"
            value={rounds.stride}
            quantity="distance"
            {...sets('set the stride', (r, v: number) => void (r.body!.rounds!.stride = v))}
          />
          <Pick
            label="Shown"
            value={rounds.all ? 'all' : 'own'}
            options={['own', 'all'] as const}
            names={{ own: 'in its own round', all: 'all at once' }}
            onChange={(v) =>
              edit(
                'show copies',
                on((r) => void (r.body!.rounds!.all = v === 'all' || undefined)),
              )
            }
          />
        </Pair>
      )}
    </>
  )
}
