import Close from '@mui/icons-material/Close'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import IconButton from '@mui/material/IconButton'
import { useTheme } from '@mui/material/styles'
import type { Document, Rig } from '../../core/page.generated'
import { facingNames, seatOf } from '../../core/rigs'
import { showWithUnit } from '../../core/units'
import type { Value } from '../../core/value'
import { useBench } from '../../stores/bench'
import { Choice, Figure, Pair, Pick, Vec3Field } from '../fields/fields'
import { MovingField } from '../fields/MovingField'
import { Remedies } from '../panels/Remedies'
import { NumberField } from '../fields/NumberField'
import { PatternFields } from './PatternFields'
import { takeOutRoll } from '../shortcuts'

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
                // Links that a belt keeps are as long as their pins are apart.
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
        value={rig.scale ?? 1}
        quantity="plain"
        unit="×"
        min={0.0001}
        max={10000}
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
            on((r) => {
              r.train!.spacing.mode = mode
              // Scattered at once, as many as have room: half of those that stood end to end.
              if (mode === 'set count' && !r.train!.spacing.count) r.train!.spacing.count = info?.count ?? 1
              if (mode === 'scatter') {
                const room = info ? Math.floor((info.pitch * info.count) / (2 * Math.max(info.partLength, 1e-6))) : 1
                r.train!.spacing.count = Math.max(Math.min(info?.count ?? 1, room), 1)
                r.train!.spacing.seed ??= 1
                if (r.train!.seat === 'ends') r.train!.seat = 'pivot'
              }
            }),
          )
        }
      />
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', columnGap: 1.5, rowGap: 1 }}>
        <NumberField
          label="Count"
          value={counted ? (s.count ?? 0) : (info?.count ?? 0)}
          quantity="count"
          unit={plural(part)}
          computed={!counted}
          min={1}
          max={100000}
          {...sets('set count', (r, v: number) => void (r.train!.spacing.count = Math.round(v)))}
        />
        <NumberField
          label={scattered ? 'Mean pitch' : 'Pitch'}
          value={counted ? (info?.pitch ?? 0) : shownPitch}
          quantity="length"
          computed={counted}
          min={0}
          {...sets('set pitch', (r, v: number) => void (r.train!.spacing.pitch = v))}
        />
        <NumberField
          label={scattered ? 'Least gap' : 'Gap'}
          value={counted && !scattered ? (info?.gap ?? 0) : (s.gap ?? 0)}
          quantity="length"
          computed={counted && !scattered}
          {...sets('set gap', (r, v: number) => void (r.train!.spacing.gap = v))}
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
              value={s.even ?? 0}
              quantity="plain"
              min={0}
              max={1}
              {...sets('set evenness', (r, v: number) => void (r.train!.spacing.even = v))}
            />
          </>
        )}
      </Box>
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
          {!counted && !scattered && Math.abs(info.gap - (s.gap ?? 0)) > 5e-4 && (
            // The gap asked for is added to the pitch; pieces shorter or longer than that leave another.
            <Figure
              label={info.gap < 0 ? 'One lies over the next by' : 'Free from one to the next'}
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

const plural = (name: string) => (/(s|x|ch|sh)$/.test(name) ? name + 'es' : name + 's')

/** Facing: which way is up along the path. */
export function FacingStep({ rig, index }: StepProps) {
  const { roles } = useTheme()
  const { edit, units, info, pieces, on, sets } = useRig(index)
  const closed = useBench((b) => b.answer?.readout.paths.find((p) => p.id === rig.path)?.closed ?? false)
  const f = rig.facing
  const roll = f.roll ?? 0
  const others = useBench((b) => b.doc?.paths)?.filter((p) => p.id !== rig.path) ?? []
  const say = useBench((b) => b.say)
  return (
    <Box sx={{ display: 'grid', gap: 1.25 }}>
      <Choice
        bare
        label="Facing"
        value={f.mode}
        options={['loopside', 'steady', 'least-twist'] as const}
        names={facingNames}
        hints={{
          loopside: 'Up looks out of a flat loop: treads, belts, chains.',
          steady: 'Up stays as near to one direction as the path lets it.',
          'least-twist': 'Up is carried along and turns no more than the path does: cables, bodies.',
        }}
        onChange={(mode) =>
          edit(
            `face ${facingNames[mode]}`,
            on((r) => void (r.facing.mode = mode)),
          )
        }
      />
      <Choice
        label="Or by something else"
        value={f.mode}
        options={['guide', 'turn'] as Rig['facing']['mode'][]}
        names={facingNames}
        onChange={(mode) => {
          if (mode === 'guide' && !f.guide && others.length === 0) {
            say('Facing towards a guide needs a second path. Add one in the rack first.')
            return
          }
          edit(
            `face ${facingNames[mode]}`,
            on((r) => {
              r.facing.mode = mode
              if (mode === 'guide') r.facing.guide ??= others[0]!.id
            }),
          )
        }}
      />
      {f.mode === 'guide' && (
        <Pick
          inline
          label="Guide"
          value={f.guide ?? ''}
          options={others.map((p) => p.id)}
          names={Object.fromEntries(others.map((p) => [p.id, p.name]))}
          onChange={(v) =>
            edit(
              'change the guide',
              on((r) => void (r.facing.guide = v)),
            )
          }
        />
      )}
      {f.mode === 'loopside' && (
        <Choice
          label="Side"
          value={f.inward ? 'inward' : 'outward'}
          options={['outward', 'inward'] as const}
          onChange={(v) =>
            edit(
              `face ${v}`,
              on((r) => void (r.facing.inward = v === 'inward')),
            )
          }
        />
      )}
      {(f.mode === 'steady' || f.mode === 'least-twist') && (
        <Vec3Field
          label={f.mode === 'steady' ? 'Fixed up' : 'Up at the start'}
          quantity="plain"
          value={f.up ?? [0, 1, 0]}
          onCommit={(v) =>
            edit(
              'set up',
              on((r) => void (r.facing.up = v)),
            )
          }
        />
      )}
      <Pair>
        <MovingField
          label="Roll"
          value={roll}
          present={pieces?.roll ?? 0}
          quantity="angle"
          {...sets('set roll', (r, v: Value) => void (r.facing.roll = v))}
        />
        <NumberField
          label="Extra turns"
          value={f.turns ?? 0}
          quantity={closed ? 'count' : 'plain'}
          unit="turns"
          {...sets('set extra turns', (r, v: number) => void (r.facing.turns = v))}
        />
        {f.mode === 'least-twist' && closed && (
          <NumberField
            label="Looks alike every"
            value={f.symmetry || 1}
            quantity="count"
            unit="th of a turn"
            min={1}
            max={360}
            onCommit={(v) =>
              edit(
                'set symmetry',
                on((r) => void (r.facing.symmetry = Math.round(v))),
              )
            }
          />
        )}
      </Pair>
      <RollBeads rig={rig} index={index} />
      {info && (
        <Box
          sx={{
            borderTop: `1px solid ${roles.rule}`,
            pt: 1,
            display: 'grid',
            gap: 0.5,
            fontSize: 11,
            color: roles.secondary,
          }}
        >
          {f.mode === 'guide' && (
            <>
              <Figure
                label="Guide, nearest"
                value={showWithUnit(info.guideNear ?? 0, 'length', units)}
                word={
                  (info.guideNear ?? 0) < 0.02 * (info.pitch || 1)
                    ? `too near at ${showWithUnit(info.guideNearAt ?? 0, 'distance', units)}`
                    : undefined
                }
                tone="near"
              />
              <Figure
                label="Runs ahead by"
                value={showWithUnit(info.guideAhead ?? 0, 'angle', units)}
                word={
                  (info.guideAhead ?? 0) > 60
                    ? `runs away at ${showWithUnit(info.guideAheadAt ?? 0, 'distance', units)}`
                    : undefined
                }
                tone="near"
              />
            </>
          )}
          {info.notes?.map((n) => (
            <Box key={n} sx={{ color: roles.amberText }}>
              {n}
            </Box>
          ))}
          {f.mode === 'least-twist' && closed && (
            <Figure label="Left over at the seam, spread out" value={showWithUnit(info.residualDeg, 'angle', units)} />
          )}
          {f.mode === 'loopside' && (
            <Figure
              label="Off its plane"
              value={showWithUnit(info.offPlane, 'length', units)}
              word={info.offPlane < 1e-6 ? 'flat' : 'not flat'}
              tone={info.offPlane < 1e-6 ? 'good' : 'near'}
            />
          )}
          {info.straight && <span>The path is straight: no side of it is outward, so one was chosen.</span>}
          {info.along?.map((a) => (
            <span key={a.from}>
              From {showWithUnit(a.from, 'distance', units)} to {showWithUnit(a.to, 'distance', units)}{' '}
              {f.mode === 'turn'
                ? 'the path hardly bends'
                : f.mode === 'guide'
                  ? 'the guide says nothing'
                  : 'the path runs along its up'}
              ; up is carried over there and turns by {showWithUnit(a.turnDeg, 'angle', units)}.
            </span>
          ))}
          <Remedies id="flips" rig={rig.id} />
        </Box>
      )}
    </Box>
  )
}

/** Roll by distance, as numbers: the same beads as on the length strip. */
function RollBeads({ rig, index }: StepProps) {
  const { roles } = useTheme()
  const { edit, on, sets } = useRig(index)
  const length = useBench((b) => b.answer?.readout.paths.find((p) => p.id === rig.path)?.length) ?? 1
  const chosen = useBench((b) => b.rollBead)
  const beads = rig.facing.rollAt ?? []
  const order = (r: Rig) => void r.facing.rollAt!.sort((a, b) => a.at - b.at)
  return (
    <Box sx={{ display: 'grid', gap: 0.5 }} data-testid="roll-beads">
      <Box sx={{ display: 'flex', alignItems: 'center' }}>
        <Box sx={{ flex: 1, fontSize: 11, color: roles.secondary }}>
          {beads.length ? 'Roll keys by distance' : 'Roll keys by distance: none'}
        </Box>
        <Button
          sx={{ minHeight: 22, px: 0.75 }}
          onClick={() =>
            edit(
              'add a roll key',
              on((r) => {
                const last = r.facing.rollAt?.at(-1)
                const at = last ? Math.min(last.at + length / 8, (last.at + length) / 2) : length / 4
                r.facing.rollAt = [...(r.facing.rollAt ?? []), { at: round(at), roll: last?.roll ?? 0, ease: 'eased' }]
              }),
            )
          }
        >
          Add roll key
        </Button>
      </Box>
      {beads.map((b, i) => (
        <Box
          key={i}
          sx={{
            display: 'grid',
            gridTemplateColumns: '76px 60px 1fr 20px',
            gap: 0.375,
            alignItems: 'center',
            borderRadius: '6px',
            background: chosen === i ? roles.tint : 'transparent',
          }}
          onFocus={() => useBench.setState({ rollBead: i })}
        >
          <NumberField
            hideLabel
            label={`Distance of roll key ${i + 1}`}
            value={b.at}
            quantity="distance"
            min={0}
            onCommit={(v) =>
              edit(
                'move a roll key',
                on((r) => {
                  const taken = r.facing.rollAt!.some((x, k) => k !== i && x.at === v)
                  r.facing.rollAt![i]!.at = taken ? v + 1e-6 : v
                  order(r)
                }),
              )
            }
          />
          <NumberField
            hideLabel
            label={`Roll of roll key ${i + 1}`}
            value={b.roll}
            quantity="angle"
            {...sets('set a roll key', (r, v: number) => void (r.facing.rollAt![i]!.roll = v))}
          />
          <Pick
            hideLabel
            label={`Shape after roll key ${i + 1}`}
            value={b.ease ?? 'straight'}
            options={['straight', 'eased'] as const}
            onChange={(v) =>
              edit(
                `go on ${v} from a roll key`,
                on((r) => void (r.facing.rollAt![i]!.ease = v)),
              )
            }
          />
          <IconButton
            aria-label={`Remove roll key ${i + 1}`}
            sx={{ width: 22, height: 22, '& svg': { fontSize: 14 } }}
            onClick={() => takeOutRoll(i)}
          >
            <Close />
          </IconButton>
        </Box>
      ))}
    </Box>
  )
}

const round = (v: number) => Math.round(v * 1e4) / 1e4
