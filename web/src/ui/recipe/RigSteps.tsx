import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import { useTheme } from '@mui/material/styles'
import type { Document, Rig } from '../../core/page.generated'
import { seatOf } from '../../core/rigs'
import { showWithUnit } from '../../core/units'
import type { Value } from '../../core/value'
import { useBench } from '../../stores/bench'
import { Choice, Figure, Pick } from '../fields/fields'
import { MovingField } from '../fields/MovingField'
import { Remedies } from '../panels/Remedies'
import { NumberField } from '../fields/NumberField'
import { PatternFields } from './PatternFields'

export interface StepProps {
  rig: Rig
  index: number
}

/** What a step needs: how to edit its rig, and what was found out about it. */
export function useRig(index: number) {
  const edit = useBench((b) => b.edit)
  const preview = useBench((b) => b.preview)
  const units = useBench((b) => b.doc?.units) ?? 'mm'
  const info = useBench((b) => b.answer?.readout.rigs[index])
  const checks = useBench((b) => b.checks)
  const on = (change: (r: Rig) => void) => (d: Document) => change(d.rigs[index]!)
  /** What a field of one number needs: to show it while it changes, and to keep it. */
  const sets = <V,>(label: string, put: (r: Rig, v: V) => void) => ({
    onPreview: (v: V) => preview(on((r) => put(r, v))),
    onCommit: (v: V, called?: string) =>
      edit(
        called ?? label,
        on((r) => put(r, v)),
      ),
  })
  const pieces = useBench((b) => b.shown.find((p) => p.rig === index))
  return { edit, units, info, checks, pieces, on, sets }
}

/** Seat: how a piece sits. */
export function SeatStep({ rig, index }: StepProps) {
  const { roles } = useTheme()
  const { edit, sets, info, units } = useRig(index)
  const seat = seatOf(rig)
  return (
    <Box sx={{ display: 'grid', gap: 1.25 }}>
      {rig.train && (
        <Choice
          bare
          label="Seat"
          value={seat}
          options={['pivot', 'ends', 'bent'] as const}
          names={{ pivot: 'pivot', ends: 'both ends', bent: 'bent' }}
          onChange={(v) =>
            edit(
              v === 'bent' ? 'bend the pieces' : `seat pieces on ${v === 'ends' ? 'their ends' : 'their pivot'}`,
              (d) => {
                d.rigs[index]!.train!.seat = v
                // Links on a belt of kept length are as long as their pins are apart.
                const keep = d.paths.find((p) => p.id === rig.path)?.shape.wrap?.keep
                if (keep) keep.pins = v === 'ends' || undefined
              },
            )
          }
        />
      )}
      <Box sx={{ color: roles.secondary, fontSize: 11 }}>
        {seat === 'bent'
          ? 'Each piece takes the form of the path where it is. Segments belong to the part.'
          : seat === 'ends'
            ? 'Each piece is rigid, and both its pins lie on the path: links that never stretch.'
            : 'Each piece is rigid and sits with its pivot on the path. Where the pivot is belongs to the part.'}
      </Box>
      {rig.train && seat !== 'ends' && info && (
        <Figure
          label="Rigid and bent differ by"
          value={showWithUnit(info.deviation, 'length', units)}
          word={`piece ${info.deviationPiece}`}
        />
      )}
      {seat === 'bent' && <Remedies id="facets" rig={rig.id} />}
      {seat === 'bent' && <Remedies id="fold" rig={rig.id} />}
      <NumberField
        label="Scale of the pieces"
        at="rigs/*/scale"
        value={rig.scale ?? 1}
        quantity="plain"
        unit="×"
        {...sets('scale the pieces', (r, v: number) => void (r.scale = v))}
      />
    </Box>
  )
}

/** Spacing: count, pitch or both. */
export function SpacingStep({ rig, index }: StepProps) {
  const { roles } = useTheme()
  const { edit, units, info, checks, pieces, on, sets } = useRig(index)
  const s = rig.train?.spacing ?? {}
  const seam = checks.find((c) => c.id === 'seam' && c.rig === rig.id)
  const part = useBench((b) => b.doc?.parts.find((p) => p.id === rig.part)?.name.toLowerCase() ?? 'piece')
  const scattered = s.mode === 'scatter'
  const counted = s.mode === 'set count' || scattered
  const open = useBench((b) => b.answer?.readout.paths.find((p) => p.id === rig.path)?.closed === false)
  const shownPitch = s.pitch || Math.max((info?.asked ?? 0) - (s.gap ?? 0), 0) || (info?.partLength ?? 0)
  // What is free from one piece to the next, as it was asked for.
  const askedGap = (s.gap ?? 0) + (s.pitch && info ? s.pitch - info.partLength : 0)
  const offset = rig.offset ?? 0
  return (
    <Box sx={{ display: 'grid', gap: 1 }}>
      <Choice
        bare
        label="Spacing"
        value={s.mode ?? 'set count'}
        options={['set count', 'set pitch', 'close up', 'scatter'] as const}
        names={{ 'close up': 'fill evenly' }}
        hints={{
          'set count': 'So many pieces, evenly over the whole path.',
          'set pitch': 'So far from one to the next; what is left stays free.',
          'close up': 'As many as fit, with the pitch changed a little so that nothing is left.',
          scatter: 'So many at random places, by a seed.',
        }}
        onChange={(mode) =>
          edit(
            mode,
            on((r) => changeMode(r, mode, info)),
          )
        }
      />
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', columnGap: 1.5, rowGap: 1 }}>
        <NumberField
          label="Count"
          at="rigs/*/train/spacing/count"
          value={counted ? (s.count ?? 0) : (info?.count ?? 0)}
          quantity="count"
          unit={plural(part)}
          computed={!counted}
          min={1}
          {...sets('set count', (r, v: number) => void (r.train!.spacing.count = Math.round(v)))}
        />
        <NumberField
          label={scattered ? 'Mean pitch' : 'Pitch'}
          at="rigs/*/train/spacing/pitch"
          value={counted ? (info?.pitch ?? 0) : shownPitch}
          quantity="length"
          computed={counted}
          {...sets('set pitch', (r, v: number) => void (r.train!.spacing.pitch = v))}
        />
        <NumberField
          label={scattered ? 'Least gap' : 'Gap'}
          value={scattered ? (s.gap ?? 0) : counted ? (info?.gap ?? 0) : askedGap}
          quantity="length"
          {...sets('set gap', (r, v: number) => setGap(r, v, info, !open))}
        />
        <MovingField
          label="Offset"
          value={offset}
          present={pieces?.offset ?? 0}
          quantity="length"
          {...sets('set offset', (r, v: Value) => void (r.offset = v))}
        />
        {scattered && (
          <>
            <NumberField
              label="Seed"
              value={s.seed ?? 0}
              quantity="count"
              min={-1e9}
              max={1e9}
              {...sets('set seed', (r, v: number) => void (r.train!.spacing.seed = Math.round(v)))}
            />
            <NumberField
              label="Evenness, 0 to 1"
              at="rigs/*/train/spacing/even"
              value={s.even ?? 0}
              quantity="plain"
              {...sets('set evenness', (r, v: number) => void (r.train!.spacing.even = v))}
            />
          </>
        )}
      </Box>
      {!scattered && info && <Fits rig={rig} index={index} />}
      {s.mode === 'close up' && (
        <Pick
          inline
          label="Leftover"
          value={s.rest ?? 'pitch'}
          options={['pitch', 'slack'] as const}
          names={{ pitch: 'spread over the spacing', slack: 'leave as a gap' }}
          onChange={(rest) =>
            edit(
              rest === 'pitch' ? 'spread the leftover' : 'leave the leftover as a gap',
              on((r) => void (r.train!.spacing.rest = rest)),
            )
          }
        />
      )}
      {open && (
        <Pick
          inline
          label="Past the end"
          value={rig.train?.pastEnd ?? 'straight on'}
          options={['straight on', 'come round'] as const}
          onChange={(v) =>
            edit(
              `past the end: ${v}`,
              on((r) => void (r.train!.pastEnd = v)),
            )
          }
        />
      )}
      {rig.train && <PatternFields rig={rig} index={index} />}
      {info && (
        <Box sx={{ borderTop: `1px solid ${roles.rule}`, pt: 1, display: 'grid', gap: 0.5 }}>
          {s.mode === 'close up' && Math.abs(info.pitch - info.asked) > 5e-6 && (
            <Figure
              label="Pitch that fills evenly"
              value={showWithUnit(info.pitch, 'length', units)}
              word={`${info.pitch >= info.asked ? '+' : '−'}${showWithUnit(Math.abs(info.pitch - info.asked), 'length', units)}`}
            />
          )}
          {s.mode === 'close up' && Math.abs(info.gap - askedGap) > 5e-6 && (
            <Figure
              label={info.gap < 0 ? 'Overlap that comes of it' : 'Gap that comes of it'}
              value={showWithUnit(Math.abs(info.gap), 'length', units)}
            />
          )}
          {info.comesRound || seam ? (
            <Figure
              label="Seam"
              value={showWithUnit(seam?.value ?? info.seam, 'length', units)}
              word={seam?.word ?? ''}
              tone={seam?.state === 'outside' ? 'bad' : seam?.state === 'near' ? 'near' : 'good'}
            />
          ) : (
            Math.abs(info.seam) > 5e-6 && (
              <Figure label="Left free at the end" value={showWithUnit(info.seam, 'length', units)} />
            )
          )}
          {seam?.state === 'outside' && <Remedies id="seam" rig={rig.id} />}
        </Box>
      )}
    </Box>
  )
}

type Info = NonNullable<ReturnType<typeof useRig>['info']>
type Spacing = NonNullable<Rig['train']>['spacing']

/** What each spacing of a rig was set to, so that going back to it loses no number. */
const before = new Map<string, Spacing & { seat?: NonNullable<Rig['train']>['seat'] }>()

/** Spaces a train in another way; what that was set to before in this visit counts again. */
function changeMode(r: Rig, mode: NonNullable<Spacing['mode']>, info: Info | undefined) {
  const t = r.train!
  const { id } = useBench.getState()
  before.set(`${id} ${r.id} ${t.spacing.mode}`, { ...t.spacing, seat: t.seat })
  const was = before.get(`${id} ${r.id} ${mode}`)
  if (was) {
    const { seat, ...spacing } = was
    t.spacing = spacing
    t.seat = seat
    return
  }
  t.spacing.mode = mode
  if (mode === 'set count' && !t.spacing.count) t.spacing.count = info?.count ?? 1
  if (mode === 'scatter') {
    // As many as have room at random places: half of those that stood end to end.
    const room = info ? Math.floor((info.pitch * info.count) / (2 * Math.max(info.partLength, 1e-6))) : 1
    t.spacing.count = Math.max(Math.min(info?.count ?? 1, room), 1)
    t.spacing.seed ??= 1
    delete t.spacing.gap
    if (t.seat === 'ends') t.seat = 'pivot'
  }
}

/** Leaves a gap free from one piece to the next: with a set count by as many as come nearest to it. */
function setGap(r: Rig, gap: number, info: Info | undefined, closed: boolean) {
  const s = r.train!.spacing
  if (s.mode === 'scatter' || !info) s.gap = gap
  else if (s.mode === 'set count') {
    const pitch = info.partLength + gap
    const length = info.pitch * (info.count - (closed ? 0 : 1))
    if (pitch > 0 && length > 0) s.count = Math.max(Math.round(length / pitch) + (closed ? 0 : 1), 1)
  } else if (s.pitch && !s.gap && Math.abs(s.pitch - info.partLength) > 1e-9) s.pitch = info.partLength + gap
  else s.gap = gap - (s.pitch ? s.pitch - info.partLength : 0)
}

/** The fields of a part that say how long it is. */
const lengthOf = {
  box: 'length',
  float: 'length',
  shoe: 'length',
  link: 'pitch',
  plank: 'length',
  tube: 'length',
  strip: 'length',
  dart: 'length',
} as const

/** Makes pieces and pitch fit one another. */
function Fits({ rig, index }: StepProps) {
  const { edit, info, on } = useRig(index)
  const part = useBench((b) => b.doc?.parts.find((p) => p.id === rig.part))
  const kind = (Object.keys(lengthOf) as (keyof typeof lengthOf)[]).find((k) => part?.shape[k])
  const closed = useBench((b) => b.answer?.readout.paths.find((p) => p.id === rig.path)?.closed !== false)
  const kept = useBench((b) => !!b.doc?.paths.find((p) => p.id === rig.path)?.shape.wrap?.keep)
  // Links lie over one another, and a kept belt says how many there are.
  if (!info || Math.abs(info.gap) < 5e-7 || part?.shape.link || kept) return null
  const buttons: [string, string, () => void][] = [
    [
      'Pitch to piece',
      'No gap: the pieces touch, as many as come nearest to it.',
      () =>
        edit(
          'fit the pitch to the piece',
          on((r) => {
            const s = r.train!.spacing
            if (s.mode !== 'set count') delete s.pitch
            setGap(r, 0, info, closed)
          }),
        ),
    ],
    ...(kind
      ? [
          [
            'Piece to pitch',
            'The pieces get as long as one is from the next.',
            () =>
              edit('fit the piece to the pitch', (d) => {
                const p = d.parts.find((p) => p.id === rig.part)!
                const long = Number((info.pitch / (rig.scale || 1)).toPrecision(9))
                ;(p.shape[kind] as unknown as Record<string, number>)[lengthOf[kind]] = long
                const s = d.rigs[index]!.train!.spacing
                if (s.mode !== 'set count') {
                  s.pitch = Number(info.pitch.toPrecision(9))
                  delete s.gap
                }
              }),
          ] as [string, string, () => void],
        ]
      : []),
  ]
  return (
    <Box role="group" aria-label="Fit" sx={{ display: 'flex', gap: 1 }}>
      {buttons.map(([name, title, run]) => (
        <Button key={name} variant="outlined" color="inherit" title={title} onClick={run} sx={{ flex: 1 }}>
          {name}
        </Button>
      ))}
    </Box>
  )
}

const plural = (name: string) => (/(s|x|ch|sh)$/.test(name) ? name + 'es' : name + 's')
