import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import { useTheme } from '@mui/material/styles'
import type { Document, Rig } from '../api/page.generated'
import { showWithUnit } from '../core/units'
import { isKeyed, isRunning, setAt, type Key, type Value } from '../core/value'
import { useBench } from '../stores/bench'
import { useClock } from '../stores/clock'
import { Choice, Figure, Pair, Pick, Vec3Field } from './fields'
import { KeyBead } from './KeyBead'
import { NumberField } from './NumberField'
import { EndsSelect } from './TimeStrip'

interface StepProps {
  rig: Rig
  index: number
}

function useRig(index: number) {
  const edit = useBench((b) => b.edit)
  const preview = useBench((b) => b.preview)
  const units = useBench((b) => b.doc?.units) ?? 'mm'
  const info = useBench((b) => b.answer?.readout.rigs[index])
  const checks = useBench((b) => b.checks)
  const on = (change: (r: Rig) => void) => (d: Document) => change(d.rigs[index]!)
  return { edit, preview, units, info, checks, on }
}

/** Seat: how a piece sits. */
export function SeatStep({ rig, index }: StepProps) {
  const { roles } = useTheme()
  const { edit, preview, on } = useRig(index)
  return (
    <Box sx={{ display: 'grid', gap: 1.25 }}>
      <Box sx={{ color: roles.secondary, fontSize: 11 }}>
        Each piece is rigid and sits with its pivot on the path. Where the pivot is belongs to the part.
      </Box>
      <NumberField
        label="Scale of the pieces"
        value={rig.scale ?? 1}
        quantity="plain"
        unit="×"
        min={0.0001}
        max={10000}
        onPreview={(v) => preview(on((r) => void (r.scale = v)))}
        onCommit={(v) =>
          edit(
            'scale the pieces',
            on((r) => void (r.scale = v)),
          )
        }
      />
    </Box>
  )
}

/** Spacing: count, pitch or both. */
export function SpacingStep({ rig, index }: StepProps) {
  const { roles } = useTheme()
  const { edit, preview, units, info, checks, on } = useRig(index)
  const frame = useClock((c) => c.frame)
  const s = rig.spacing
  const seam = checks.find((c) => c.id === 'seam' && c.rig === rig.id)
  const part = useBench((b) => b.doc?.parts.find((p) => p.id === rig.part)?.name.toLowerCase() ?? 'piece')
  const counted = s.mode === 'set count'
  const open = useBench((b) => b.answer?.readout.paths.find((p) => p.id === rig.path)?.closed === false)
  const shownPitch = s.pitch || Math.max((info?.asked ?? 0) - (s.gap ?? 0), 0) || (info?.partLength ?? 0)
  const offset = s.offset ?? 0
  return (
    <Box sx={{ display: 'grid', gap: 1 }}>
      <Choice
        label="Spacing"
        value={s.mode}
        options={['set count', 'set pitch', 'close up'] as const}
        onChange={(mode) =>
          edit(
            mode,
            on((r) => {
              r.spacing.mode = mode
              if (mode === 'set count' && !r.spacing.count) r.spacing.count = info?.count ?? 1
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
          onPreview={(v) => preview(on((r) => void (r.spacing.count = Math.round(v))))}
          onCommit={(v) =>
            edit(
              `set count ${Math.round(v)}`,
              on((r) => void (r.spacing.count = Math.round(v))),
            )
          }
        />
        <NumberField
          label="Pitch"
          value={counted ? (info?.pitch ?? 0) : shownPitch}
          quantity="length"
          computed={counted}
          min={0}
          onPreview={(v) => preview(on((r) => void (r.spacing.pitch = v)))}
          onCommit={(v) =>
            edit(
              'set pitch',
              on((r) => void (r.spacing.pitch = v)),
            )
          }
        />
        <NumberField
          label="Gap"
          value={counted ? (info?.gap ?? 0) : (s.gap ?? 0)}
          quantity="length"
          computed={counted}
          onPreview={(v) => preview(on((r) => void (r.spacing.gap = v)))}
          onCommit={(v) =>
            edit(
              'set gap',
              on((r) => void (r.spacing.gap = v)),
            )
          }
        />
        <NumberField
          label="Offset"
          value={typeof offset === 'number' ? offset : 0}
          quantity="length"
          computed={typeof offset !== 'number'}
          adornment={
            <KeyBead
              value={offset}
              frame={frame}
              label="offset"
              present={typeof offset === 'number' ? offset : valueNear(offset, frame)}
              onChange={(v, label) =>
                edit(
                  label,
                  on((r) => void (r.spacing.offset = v)),
                )
              }
            />
          }
          onPreview={(v) => preview(on((r) => void (r.spacing.offset = v)))}
          onCommit={(v) =>
            edit(
              'set offset',
              on((r) => void (r.spacing.offset = v)),
            )
          }
        />
      </Box>
      {s.mode === 'close up' && (
        <Pick
          inline
          label="Rest goes to"
          value={s.rest ?? 'pitch'}
          options={['pitch', 'slack'] as const}
          onChange={(rest) =>
            edit(
              `rest goes to ${rest}`,
              on((r) => void (r.spacing.rest = rest)),
            )
          }
        />
      )}
      {open && (
        <Pick
          inline
          label="Past the end"
          value={rig.pastEnd ?? 'straight on'}
          options={['straight on', 'come round'] as const}
          onChange={(v) =>
            edit(
              `past the end: ${v}`,
              on((r) => void (r.pastEnd = v)),
            )
          }
        />
      )}
      {info && (
        <Box sx={{ borderTop: `1px solid ${roles.rule}`, pt: 1, display: 'grid', gap: 0.5 }}>
          {s.mode === 'close up' && Math.abs(info.pitch - info.asked) > 5e-6 && (
            <Figure
              label="Pitch, closed up"
              value={showWithUnit(info.pitch, 'length', units)}
              word={`${info.pitch >= info.asked ? '+' : '−'}${showWithUnit(Math.abs(info.pitch - info.asked), 'length', units)}`}
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

/** What a value with keys holds at the key nearest before a frame; the picture has the value itself. */
function valueNear(v: Value, frame: number): number {
  if (!isKeyed(v)) return typeof v === 'number' ? v : 0
  return [...v.keys].reverse().find((k) => k.frame <= frame)?.value ?? v.keys[0]!.value
}

const plural = (name: string) => (/(s|x|ch|sh)$/.test(name) ? name + 'es' : name + 's')

/** The presses that mend a check. */
export function Remedies({ id, rig }: { id: string; rig: string }) {
  const result = useBench((b) => b.checks.find((c) => c.id === id && c.rig === rig))
  const edit = useBench((b) => b.edit)
  if (!result?.remedies?.length) return null
  return (
    <Box sx={{ display: 'grid', gap: 0.75, mt: 0.5 }}>
      {result.remedies.map((r) => (
        <Button
          key={r.label}
          variant="outlined"
          onClick={() =>
            edit(r.label, (d) => {
              for (const e of r.edits) setAt(d, e.path, e.value)
            })
          }
        >
          {r.label}
        </Button>
      ))}
    </Box>
  )
}

/** Facing: which way is up along the path. */
export function FacingStep({ rig, index }: StepProps) {
  const { roles } = useTheme()
  const { edit, preview, units, info, on } = useRig(index)
  const frame = useClock((c) => c.frame)
  const closed = useBench((b) => b.answer?.readout.paths.find((p) => p.id === rig.path)?.closed ?? false)
  const f = rig.facing
  const roll = f.roll ?? 0
  return (
    <Box sx={{ display: 'grid', gap: 1.25 }}>
      <Choice
        label="Facing"
        value={f.mode}
        options={['loopside', 'steady', 'least-twist'] as const}
        names={{ 'least-twist': 'least twist' }}
        onChange={(mode) =>
          edit(
            `face ${mode}`,
            on((r) => void (r.facing.mode = mode)),
          )
        }
      />
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
      {f.mode !== 'loopside' && (
        <Vec3Field
          label={f.mode === 'steady' ? 'Steady up' : 'Up at the start'}
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
        <NumberField
          label="Roll"
          value={typeof roll === 'number' ? roll : valueNear(roll, frame)}
          quantity="angle"
          computed={typeof roll !== 'number' && !(isKeyed(roll) && roll.keys.some((k) => k.frame === frame))}
          adornment={
            <KeyBead
              value={roll}
              frame={frame}
              label="roll"
              present={typeof roll === 'number' ? roll : valueNear(roll, frame)}
              onChange={(v, label) =>
                edit(
                  label,
                  on((r) => void (r.facing.roll = v)),
                )
              }
            />
          }
          onPreview={(v) => typeof roll === 'number' && preview(on((r) => void (r.facing.roll = v)))}
          onCommit={(v) =>
            edit(
              'set roll',
              on((r) => {
                r.facing.roll = isKeyed(roll)
                  ? { ...roll, keys: roll.keys.map((k) => (k.frame === frame ? { ...k, value: v } : k)) }
                  : v
              }),
            )
          }
        />
        <NumberField
          label="Extra turns"
          value={f.turns ?? 0}
          quantity={closed ? 'count' : 'plain'}
          unit="turns"
          onPreview={(v) => preview(on((r) => void (r.facing.turns = v)))}
          onCommit={(v) =>
            edit(
              'set extra turns',
              on((r) => void (r.facing.turns = v)),
            )
          }
        />
        {f.mode === 'least-twist' && closed && (
          <NumberField
            label="Looks the same every"
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
              From {showWithUnit(a.from, 'distance', units)} to {showWithUnit(a.to, 'distance', units)} the path runs
              along its up; up is carried over there and turns by {showWithUnit(a.turnDeg, 'angle', units)}.
            </span>
          ))}
          <Remedies id="flips" rig={rig.id} />
        </Box>
      )}
    </Box>
  )
}

type Drive = 'set' | 'keys' | 'speed'
const shapes = ['straight', 'eased', 'stepped'] as const

/** Travel: what moves the rig. */
export function TravelStep({ rig, index }: StepProps) {
  const { roles } = useTheme()
  const { edit, preview, on } = useRig(index)
  const frame = useClock((c) => c.frame)
  const range = useBench((b) => b.doc!.range)
  const pieces = useBench((b) => b.shown.find((p) => p.rig === index))
  const v = rig.travel
  const drive: Drive = isKeyed(v) ? 'keys' : isRunning(v) ? 'speed' : 'set'
  const put = (value: Value) => on((r) => void (r.travel = value))
  const change = (to: Drive) => {
    const present = pieces?.travel ?? 0
    const next: Value =
      to === 'set'
        ? present
        : to === 'speed'
          ? { speed: 0.5 }
          : {
              keys: [
                { frame: range.first, value: present, shape: 'straight' },
                { frame: range.last, value: present + 1, shape: 'straight' },
              ],
              after: 'carry on',
            }
    edit({ set: 'set travel by hand', keys: 'key travel', speed: 'run at a speed' }[to], put(next))
  }
  const keyAt = isKeyed(v) ? v.keys.findIndex((k) => k.frame === frame) : -1
  return (
    <Box sx={{ display: 'grid', gap: 1.25 }}>
      <Choice
        label="What moves it"
        value={drive}
        options={['set', 'keys', 'speed'] as const}
        names={{ set: 'by hand' }}
        onChange={change}
      />
      {typeof v === 'number' && (
        <NumberField
          label="Travel"
          value={v}
          quantity="distance"
          onPreview={(x) => preview(put(x))}
          onCommit={(x) => edit('set travel', put(x))}
        />
      )}
      {isRunning(v) && (
        <>
          <Pair>
            <NumberField
              label="Speed"
              value={v.speed}
              quantity="speed"
              onPreview={(x) => preview(put({ ...v, speed: x }))}
              onCommit={(x) => edit('set speed', put({ ...v, speed: x }))}
            />
            <NumberField
              label="Travel at the start"
              value={v.start ?? 0}
              quantity="distance"
              onPreview={(x) => preview(put({ ...v, start: x }))}
              onCommit={(x) => edit('set the start', put({ ...v, start: x }))}
            />
          </Pair>
          <Button variant="outlined" onClick={() => edit('run the other way', put({ ...v, speed: -v.speed }))}>
            Run the other way
          </Button>
        </>
      )}
      {isKeyed(v) && (
        <>
          <Box sx={{ display: 'grid', gap: 0.5, maxHeight: 150, overflow: 'auto' }}>
            {v.keys.map((k, i) => (
              <KeyRow
                key={k.frame}
                k={k}
                here={i === keyAt}
                onChange={(nk, label) => edit(label, put({ ...v, keys: v.keys.map((o, j) => (j === i ? nk : o)) }))}
              />
            ))}
          </Box>
          <Box
            sx={{
              display: 'grid',
              gridTemplateColumns: 'auto 1fr auto 1fr',
              alignItems: 'center',
              gap: 0.75,
              fontSize: 11,
              color: roles.secondary,
            }}
          >
            before
            <EndsSelect
              label="Before the first key"
              ends={v.before ?? 'hold'}
              onChange={(before) => edit(`${before} before the first key`, put({ ...v, before }))}
            />
            after
            <EndsSelect
              ends={v.after ?? 'hold'}
              onChange={(after) => edit(`${after} after the last key`, put({ ...v, after }))}
            />
          </Box>
          <Box sx={{ fontSize: 11, color: roles.secondary }}>
            Pull a piece in the view, or press Key in the time strip, to set a key.
          </Box>
        </>
      )}
      <Remedies id="loop" rig={rig.id} />
    </Box>
  )
}

function KeyRow({ k, here, onChange }: { k: Key; here: boolean; onChange: (k: Key, label: string) => void }) {
  const { roles } = useTheme()
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: '58px 1fr 84px', gap: 0.75, alignItems: 'center' }}>
      <Button
        size="small"
        onClick={() => useClock.getState().goTo(k.frame)}
        title="Go to this frame"
        sx={{
          minHeight: 26,
          p: 0,
          justifyContent: 'flex-start',
          color: here ? roles.orangeText : roles.brassText,
          font: `500 12px/16px 'IBM Plex Mono', monospace`,
        }}
      >
        <svg width="10" height="10" style={{ marginRight: 5 }} aria-hidden>
          <circle cx="5" cy="5" r="3.6" fill={roles.brass} />
        </svg>
        {k.frame}
      </Button>
      <NumberField
        label={`Travel at frame ${k.frame}`}
        hideLabel
        value={k.value}
        quantity="distance"
        onCommit={(value) => onChange({ ...k, value }, `set the key at frame ${k.frame}`)}
      />
      <Pick
        hideLabel
        label={`Shape after frame ${k.frame}`}
        value={k.shape ?? 'straight'}
        options={shapes}
        onChange={(shape) => onChange({ ...k, shape }, `${shape} after frame ${k.frame}`)}
      />
    </Box>
  )
}
