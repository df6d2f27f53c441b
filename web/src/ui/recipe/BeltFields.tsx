import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import { useTheme } from '@mui/material/styles'
import { beltOrder, RequestError } from '../../api/client'
import type { Document, Path, PathShape } from '../../core/page.generated'
import { showWithUnit } from '../../core/units'
import { useBench } from '../../stores/bench'
import { Choice, Figure, Pair, Pick } from '../fields/fields'
import { AutoField } from '../fields/AutoField'
import { NumberField } from '../fields/NumberField'
import { EndsFields } from './EndsFields'
import { threeFields } from '../../look/theme'

type Wrap = NonNullable<PathShape['wrap']>
type Wheel = Wrap['wheels'][number]

/** Common pitches of roller chains, metres (from memory: ISO 606). */
const pitches = [0.009525, 0.0127, 0.015875, 0.01905, 0.0254]

/** A pitch from the common ones; any other can be typed beside it. */
export function PitchPick({ value, onChange }: { value: number; onChange: (v: number) => void }) {
  const near = pitches.find((p) => Math.abs(p - value) < 1e-7)
  return (
    <Pick
      label="Common pitches"
      value={near ? String(near) : ''}
      options={['', ...pitches.map(String)]}
      names={{ '': 'another', ...Object.fromEntries(pitches.map((p) => [String(p), `${+(p * 1000).toFixed(3)} mm`])) }}
      onChange={(v) => v && onChange(Number(v))}
    />
  )
}

/** Finds the order of a belt round the outside of its wheels. */
export async function orderBelt(path: Path, index: number) {
  const { edit, say } = useBench.getState()
  try {
    const order = await beltOrder(path.shape)
    edit('order the wheels round the outside', (d) => {
      const list = d.paths[index]!.shape.wrap!
      const anchor = list.anchor ? list.wheels[list.anchor - 1]!.name : ''
      list.wheels = order.map((i) => list.wheels[i]!)
      for (const w of list.wheels) delete w.back
      if (anchor) list.anchor = list.wheels.findIndex((w) => w.name === anchor) + 1
    })
    useBench.setState({ point: null })
  } catch (e) {
    if (!(e instanceof RequestError)) throw e
    say(e.message)
  }
}

/** The belt as a whole: the length it keeps, what lies on the ground, where it begins. */
export function BeltFields({ path, index }: { path: Path; index: number }) {
  const { roles } = useTheme()
  const edit = useBench((b) => b.edit)
  const preview = useBench((b) => b.preview)
  const units = useBench((b) => b.doc?.units) ?? 'mm'
  const info = useBench((b) => b.answer?.readout.paths[index])
  const rig = useBench((b) => b.doc?.rigs.findIndex((r) => r.path === path.id && r.train) ?? -1)
  const layout = useBench((b) => b.answer?.readout.rigs[rig])
  const onPins = useBench((b) => b.doc?.rigs[rig]?.train?.seat === 'ends')
  const wrap = path.shape.wrap!
  const of = (d: Document) => d.paths[index]!.shape.wrap!
  const sets = (label: string, to: (w: Wrap, v: number, d: Document) => void) => ({
    onPreview: (v: number) => preview((d) => to(of(d), v, d)),
    onCommit: (v: number) => edit(label, (d) => to(of(d), v, d)),
  })
  const keep = wrap.keep
  const belt = info?.belt
  const drawn = info?.wheels?.[0]?.width
  const links = keep?.pitch ?? (onPins ? layout?.pitch : undefined)
  const odd = wrap.wheels.find((w) => w.teeth && w.pitch && links && Math.abs(w.pitch - links) > 1e-6 * links)
  const mm = (v: number) => showWithUnit(v, 'length', units)
  /** The train on the belt has as many pieces as the belt has links. */
  const follow = (d: Document, links: number) => {
    const r = d.rigs[rig]
    if (r?.train) Object.assign(r.train.spacing, { mode: 'set count', count: links })
  }
  return (
    <Box sx={{ display: 'grid', gap: 1.25, borderTop: `1px solid ${roles.rule}`, pt: 1.25 }}>
      <EndsFields path={path} index={index} />
      {!wrap.ends && (
        <Choice
          label="Length of the belt"
          value={keep ? 'kept' : 'as it comes'}
          options={['as it comes', 'kept'] as const}
          names={{ kept: 'links × pitch', 'as it comes': 'as the wheels give' }}
          onChange={(v) =>
            edit(v === 'kept' ? 'keep the length of the belt' : 'let the belt be as long as it comes', (d) => {
              const w = of(d)
              if (v !== 'kept') {
                delete w.keep
                for (const x of w.wheels) delete x.takeUp
                return
              }
              const pitch = w.wheels.find((x) => x.pitch)?.pitch ?? layout?.pitch ?? 0.1
              const links = Math.max(layout?.count ?? Math.round((info?.length ?? 1) / pitch), 2)
              w.keep = {
                links,
                pitch: Number(pitch.toPrecision(7)),
                ...(d.rigs[rig]?.train?.seat === 'ends' ? { pins: true } : {}),
              }
              follow(d, links)
            })
          }
        />
      )}
      {keep && (
        <>
          <Pair>
            <NumberField
              label="Links"
              at="paths/*/shape/wrap/keep/links"
              value={keep.links}
              quantity="count"
              {...sets('set the links', (w, v, d) => {
                w.keep!.links = Math.round(v)
                follow(d, Math.round(v))
              })}
            />
            <NumberField
              label="Pitch"
              at="paths/*/shape/wrap/keep/pitch"
              value={keep.pitch}
              quantity="length"
              {...sets('set the pitch', (w, v) => void (w.keep!.pitch = v))}
            />
          </Pair>
          <Choice
            label="Pitch measured"
            value={keep.pins ? 'pin to pin' : 'along the belt'}
            options={['along the belt', 'pin to pin'] as const}
            names={{ 'pin to pin': 'straight between pins' }}
            onChange={(v) =>
              edit(`take the pitch ${v}`, (d) => void (of(d).keep!.pins = v === 'pin to pin' || undefined))
            }
          />
        </>
      )}
      {keep && belt && (
        <Box data-testid="belt" sx={{ display: 'grid', gap: '3px' }}>
          <Figure label={`${keep.links} links × ${mm(keep.pitch)}`} value={mm(keep.links * keep.pitch)} />
          {keep.pins && <Figure label="As long on its pins' way" value={mm(belt.kept)} />}
          <Figure label="Tight it needs" value={mm(belt.taut)} />
          <Figure
            label={belt.spare < 0 ? 'Lacks' : 'To spare'}
            value={mm(Math.abs(belt.spare))}
            word={belt.spare < -5e-4 ? 'too short' : belt.hanging ? 'sags' : belt.spare > 5e-4 ? 'too long' : 'tight'}
            tone={belt.spare < -5e-4 || (belt.spare > 5e-4 && !belt.hanging) ? 'bad' : 'good'}
          />
          {Math.abs(belt.takenUp) > 1e-6 && <Figure label="Taken up by" value={mm(belt.takenUp)} />}
        </Box>
      )}
      {odd && links && (
        <Box role="alert" data-testid="odd-teeth" sx={{ color: roles.redText, display: 'grid', gap: 0.75 }}>
          {odd.name} has a tooth every {mm(odd.pitch!)}, the links are {mm(links)}: they do not mesh.
          <Button
            variant="outlined"
            color="inherit"
            onClick={() =>
              edit(`cut ${odd.name} for the links`, (d) => {
                for (const w of of(d).wheels) if (w.teeth) w.pitch = links
              })
            }
          >
            Cut the teeth for the links
          </Button>
        </Box>
      )}
      {!info?.chain && !wrap.ends && belt && wrap.wheels.some((w) => w.teeth) && (
        <Figure
          label="Tight, in pitches"
          value={(belt.taut / (wrap.wheels.find((w) => w.pitch)?.pitch ?? 1)).toFixed(3)}
          word="along the pitch lines"
        />
      )}
      <Pair>
        {!wrap.ends && (
          <NumberField
            label="Pitch line to ground"
            at="paths/*/shape/wrap/depth"
            value={wrap.depth ?? 0}
            quantity="length"
            {...sets('set the depth of the belt', (w, v) => void (w.depth = v || undefined))}
          />
        )}
        <AutoField
          label="Wheel width"
          at="paths/*/shape/wrap/width"
          word={drawn ? `automatic, ${mm(drawn)}` : 'automatic'}
          start={drawn ?? 0.1}
          value={wrap.width || undefined}
          onSet={(v) => edit('set the width of the wheels', (d) => void (of(d).width = v))}
          quantity="length"
          {...sets('set the width of the wheels', (w, v) => void (w.width = v || undefined))}
        />
      </Pair>
      {!wrap.ends && (
        <Pick
          inline
          label="Distances begin at"
          value={String(wrap.anchor ?? 0)}
          options={['0', ...wrap.wheels.map((_, i) => String(i + 1))]}
          names={{
            '0': 'where it leaves the first',
            ...Object.fromEntries(wrap.wheels.map((w, i) => [String(i + 1), w.name])),
          }}
          onChange={(v) => edit('choose where distances begin', (d) => void (of(d).anchor = Number(v) || undefined))}
        />
      )}
    </Box>
  )
}

/** What a wheel does besides carrying the belt: slack, ground, spring, slide, carrier. */
export function WheelWays({ wheel: w, index, at }: { wheel: Wheel; index: number; at: number }) {
  const edit = useBench((b) => b.edit)
  const preview = useBench((b) => b.preview)
  const carriers = useBench((b) => b.doc?.carriers) ?? []
  const kept = useBench((b) => !!b.doc?.paths[index]?.shape.wrap?.keep)
  const open = useBench((b) => !!b.doc?.paths[index]?.shape.wrap?.ends)
  const put = (change: (w: Wheel) => void) => (d: Document) => change(d.paths[index]!.shape.wrap!.wheels[at]!)
  const sets = (label: string, to: (w: Wheel, v: number) => void) => ({
    onPreview: (v: number) => preview(put((x) => to(x, v))),
    onCommit: (v: number) =>
      edit(
        label,
        put((x) => to(x, v)),
      ),
  })
  const spring = w.spring
  const slide = w.takeUp
  const kind = !w.ground ? 'none' : !spring ? 'rigid' : spring.arm ? 'arm' : 'slide'
  return (
    <>
      {kept && (
        <Choice
          label="Run after this wheel"
          value={w.slack ? 'hangs' : 'is taut'}
          options={['is taut', 'hangs'] as const}
          names={{ 'is taut': 'tight', hangs: 'sags' }}
          onChange={(v) =>
            edit(
              `let the run after ${w.name} ${v === 'hangs' ? 'sag' : 'be tight'}`,
              put((x) => void (x.slack = v === 'hangs' || undefined)),
            )
          }
        />
      )}
      {!open && (
        <Choice
          label="Suspension"
          value={kind}
          options={['none', 'rigid', 'slide', 'arm'] as const}
          names={{ rigid: 'fixed', slide: 'vertical slide', arm: 'swing arm' }}
          hints={{
            none: 'It does not touch the ground.',
            rigid: 'It rolls on the ground and carries its frame.',
            slide: 'It rolls on the ground and moves up and down against its frame.',
            arm: 'It rolls on the ground on an arm that swings about a pivot.',
          }}
          onChange={(v) =>
            edit(v === 'none' ? `take ${w.name} off the ground` : `let ${w.name} ride on the ground`, (d) => {
              put((x) => {
                delete x.spring
                delete x.takeUp
                x.ground = v !== 'none' || undefined
                if (v === 'slide') x.spring = { up: spring?.up ?? 0.1, down: spring?.down ?? 0.1 }
                if (v === 'arm') {
                  const r = x.radius ?? 0.2
                  x.spring = {
                    up: spring?.up ?? 0.1,
                    down: spring?.down ?? 0.1,
                    arm: [x.at[0], x.at[1] + r * 0.6, x.at[2] + r * 1.7].map((n) => Number(n.toPrecision(5))) as [
                      number,
                      number,
                      number,
                    ],
                  }
                }
              })(d)
              // What lies on the ground is to stand still there: distances begin on a wheel that does.
              const all = d.paths[index]!.shape.wrap!
              if (v !== 'none' && !all.wheels[(all.anchor ?? 0) - 1]?.ground) all.anchor = at + 1
            })
          }
        />
      )}
      {spring && (
        <>
          <Pair>
            <NumberField
              label="May come up by"
              at="paths/*/shape/wrap/wheels/*/spring/up"
              value={spring.up}
              quantity="length"
              {...sets('set the travel up', (x, v) => void (x.spring!.up = v))}
            />
            <NumberField
              label="May drop by"
              at="paths/*/shape/wrap/wheels/*/spring/down"
              value={spring.down}
              quantity="length"
              {...sets('set the travel down', (x, v) => void (x.spring!.down = v))}
            />
          </Pair>
          {spring.arm ? (
            <Pair>
              <NumberField
                label="Pivot, y"
                value={spring.arm[1]}
                quantity="length"
                {...sets('move the pivot', (x, v) => void (x.spring!.arm![1] = v))}
              />
              <NumberField
                label="Pivot, z"
                value={spring.arm[2]}
                quantity="length"
                {...sets('move the pivot', (x, v) => void (x.spring!.arm![2] = v))}
              />
            </Pair>
          ) : (
            <NumberField
              label="Slide leans forward"
              value={spring.tilt ?? 0}
              quantity="angle"
              {...sets('lean the slide', (x, v) => void (x.spring!.tilt = v || undefined))}
            />
          )}
        </>
      )}
      {kept && !w.ground && (
        <Choice
          label="Axle"
          value={slide ? 'takes up' : 'stands fast'}
          options={['stands fast', 'takes up'] as const}
          names={{ 'takes up': 'tensioner', 'stands fast': 'fixed' }}
          hints={{ 'takes up': 'It slides until the belt is tight.' }}
          onChange={(v) =>
            edit(v === 'takes up' ? `let ${w.name} take up the belt` : `hold ${w.name} fast`, (d) => {
              const all = d.paths[index]!.shape.wrap!.wheels
              for (const x of all) delete x.takeUp
              if (v === 'takes up') all[at]!.takeUp = { angle: w.at[2] < 0 ? 180 : 0, in: 0.1, out: 0.1 }
            })
          }
        />
      )}
      {slide && (
        <Box sx={threeFields}>
          <NumberField
            label="Slide"
            value={slide.angle ?? 0}
            quantity="angle"
            {...sets('turn the slide', (x, v) => void (x.takeUp!.angle = v))}
          />
          <NumberField
            label="In by"
            at="paths/*/shape/wrap/wheels/*/takeUp/in"
            value={slide.in}
            quantity="length"
            {...sets('set the slide in', (x, v) => void (x.takeUp!.in = v))}
          />
          <NumberField
            label="Out by"
            at="paths/*/shape/wrap/wheels/*/takeUp/out"
            value={slide.out}
            quantity="length"
            {...sets('set the slide out', (x, v) => void (x.takeUp!.out = v))}
          />
        </Box>
      )}
      {carriers.length > 0 && (
        <Pick
          inline
          label="Moves with"
          value={w.carrier ?? ''}
          options={['', ...carriers.map((c) => c.id)]}
          names={{ '': 'the belt', ...Object.fromEntries(carriers.map((c) => [c.id, c.name])) }}
          onChange={(to) =>
            edit(
              `let ${w.name} move with a carrier`,
              put((x) => void (x.carrier = to || undefined)),
            )
          }
        />
      )}
    </>
  )
}

/** Puts it into a button's row. */
export function OrderButton({ path, index }: { path: Path; index: number }) {
  return (
    <Button variant="outlined" onClick={() => void orderBelt(path, index)}>
      Order them round the outside
    </Button>
  )
}
