import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import { useTheme } from '@mui/material/styles'
import type { Document } from '../../core/page.generated'
import { allSlots, type Slot } from '../../core/slots'
import type { Quantity } from '../../core/units'
import { isKeyed, sourceOf, type Rolling, type Source, type Value } from '../../core/value'
import { useBench } from '../../stores/bench'
import { Choice, Pair, Pick } from './fields'
import { AutoField } from './AutoField'
import { NumberField } from './NumberField'
import { KeysFields } from './KeysFields'

const sourceNames: Record<Source, string> = {
  set: 'by hand',
  keys: 'keys',
  speed: 'a constant speed',
  rpm: 'the rpm of a wheel',
  turns: 'turns of the path a loop',
  of: 'another value',
  rolls: 'rolling with a carrier',
}

/** What a value can come from. Not each makes sense for every value. */
function sourcesFor(slot: Slot, d: Document): Source[] {
  const angle = slot.quantity === 'angle'
  const metres = slot.quantity === 'length' || slot.quantity === 'distance'
  const onPath = ['travel', 'offset', 'distance'].includes(slot.key)
  const out: Source[] = ['set', 'keys', 'speed']
  if (metres) out.push('rpm')
  if (angle || onPath) out.push('turns')
  if (allSlots(d).length > 1) out.push('of')
  if (metres && (d.carriers?.length ?? 0) > 0) out.push('rolls')
  return out
}

/** The radius of the wheel that most likely drives a rig's travel: its belt's first sprocket, whose
 * turn is a pitch a tooth, or else its first wheel. */
function drivingRadius(d: Document, ref: string) {
  const [, id, key] = ref.split('/')
  const path = d.paths.find((p) => p.id === d.rigs.find((r) => r.id === id)?.path)
  const wheels = key === 'travel' ? path?.shape.wrap?.wheels.filter((w) => !w.free) : undefined
  const w = wheels?.find((w) => w.teeth && w.pitch) ?? wheels?.[0]
  return w && (w.teeth ? Number(((w.teeth * (w.pitch ?? 0)) / (2 * Math.PI)).toPrecision(12)) : w.radius)
}

/** What a value begins with that comes from something else: it stands at the play head where it stood. */
function firstOf(to: Source, slot: Slot, doc: Document, present: number): Value {
  const { range } = doc
  const others = allSlots(doc).filter((s) => s.ref !== slot.ref)
  const like = others.find((s) => kin(s.quantity, slot.quantity)) ?? others[0]
  const next: Record<Source, () => Value> = {
    set: () => present,
    speed: () => ({ speed: slot.quantity === 'angle' ? 90 : 0.5, ...(present ? { start: present } : {}) }),
    keys: () => ({
      keys: [
        { frame: range.first, value: present, shape: 'straight' },
        { frame: range.last, value: present + (slot.quantity === 'angle' ? 90 : 1), shape: 'straight' },
      ],
      after: 'carry on',
    }),
    rpm: () => ({ rpm: 30, radius: drivingRadius(doc, slot.ref) ?? 0.2, ...(present ? { start: present } : {}) }),
    turns: () => ({ turns: 1, ...(present ? { start: present } : {}) }),
    of: () => ({
      of: like!.ref,
      ...(kin(like!.quantity, slot.quantity) ? {} : { ratio: 1 }),
    }),
    rolls: () => ({
      rolls: doc.carriers![0]!.id,
      ...(['travel', 'offset', 'distance'].includes(slot.key) ? {} : { side: 'middle' }),
    }),
  }
  return next[to]()
}

/** Where a value comes from: by hand, keys, or what drives it. */
export function ValueSource({ slot, label, present }: { slot: Slot; label: string; present: number }) {
  const { roles } = useTheme()
  const doc = useBench((b) => b.doc)!
  const edit = useBench((b) => b.edit)
  const preview = useBench((b) => b.preview)
  const v = slot.get(doc)
  const source = sourceOf(v)
  const count = doc.range.last - doc.range.first + 1
  const name = label.toLowerCase()
  const put = (value: Value) => (d: Document) => slot.put(d, value)
  const keep = (said: string, value: Value) => edit(said, put(value))
  /** What a field needs that changes one number of the value. */
  const sets = (said: string, to: (x: number) => Value) => ({
    onPreview: (x: number) => preview(put(to(x))),
    onCommit: (x: number) => keep(said, to(x)),
  })
  const rate = {
    angle: { quantity: 'angle' as const, unit: '°/s' },
    waves: { quantity: 'plain' as const, unit: 'waves/s' },
    plain: { quantity: 'plain' as const, unit: '/s' },
  }[slot.quantity as string] ?? { quantity: 'speed' as const }
  const change = (to: Source) => keep(`take ${name} from ${sourceNames[to]}`, firstOf(to, slot, doc, present))
  const start = (said: string) =>
    typeof v === 'object' && !('of' in v) && !('keys' in v) ? (
      <NumberField
        label={said}
        value={v.start ?? 0}
        quantity={slot.quantity}
        {...sets(`set the start of ${name}`, (x) => ({ ...v, start: x }))}
      />
    ) : null
  return (
    <Box sx={{ display: 'grid', gap: 1.25 }}>
      <Pick
        label="Comes from"
        value={source}
        options={sourcesFor(slot, doc)}
        names={sourceNames}
        onChange={(to) => to !== source && change(to)}
      />
      {typeof v === 'number' && (
        <NumberField label={label} value={v} quantity={slot.quantity} {...sets(`set ${name}`, (x) => x)} />
      )}
      {typeof v === 'object' && 'speed' in v && (
        <>
          <Pair>
            <NumberField label="Speed" value={v.speed} {...rate} {...sets('set speed', (x) => ({ ...v, speed: x }))} />
            {start(`${label} at the start`)}
          </Pair>
          <Button variant="outlined" onClick={() => keep('run the other way', { ...v, speed: -v.speed })}>
            Run the other way
          </Button>
        </>
      )}
      {typeof v === 'object' && 'rpm' in v && (
        <>
          <Pair>
            <NumberField
              label="Turns a minute"
              value={v.rpm}
              quantity="plain"
              unit="rpm"
              {...sets('set the rpm', (x) => ({ ...v, rpm: x }))}
            />
            <NumberField
              label="Radius at the path"
              value={v.radius}
              quantity="length"
              min={1e-6}
              {...sets('set the radius', (x) => ({ ...v, radius: x }))}
            />
          </Pair>
          <WheelPick
            of={slot.ref}
            value={v.radius}
            onChange={(radius, name) => keep(`drive it by ${name}`, { ...v, radius })}
          />
          {start(`${label} at the start`)}
        </>
      )}
      {typeof v === 'object' && 'turns' in v && (
        <>
          <Pair>
            <NumberField
              label="Turns"
              value={v.turns}
              quantity="plain"
              unit="a loop"
              {...sets('set the turns', (x) => ({ ...v, turns: x }))}
            />
            <AutoField
              label="Loop length"
              word={`the range, ${count} frames`}
              start={count}
              value={v.frames || undefined}
              onSet={(x) => keep('set the frames of the loop', { ...v, frames: x })}
              quantity="count"
              unit="frames"
              min={0}
              onCommit={(x) => keep('set the frames of the loop', { ...v, frames: x || undefined })}
            />
          </Pair>
          {start(`${label} at the start`)}
        </>
      )}
      {typeof v === 'object' && 'of' in v && <FollowFields slot={slot} value={v} name={name} keep={keep} sets={sets} />}
      {typeof v === 'object' && 'rolls' in v && (
        <RollsFields value={v} onPath={['travel', 'offset', 'distance'].includes(slot.key)} keep={keep} sets={sets}>
          {start(`${label} at the start`)}
        </RollsFields>
      )}
      {isKeyed(v) && <KeysFields slot={slot} value={v} keep={keep} label={label} />}
      {source !== 'set' && source !== 'keys' && (
        <Box sx={{ display: 'flex', justifyContent: 'space-between', fontSize: 11, color: roles.secondary }}>
          <span>At the play head</span>
          <Button
            sx={{ minHeight: 20, p: 0 }}
            onClick={() => keep(`hold ${name} where it is`, present)}
            title="A constant, as it is at the play head"
          >
            Make constant
          </Button>
        </Box>
      )}
    </Box>
  )
}

/** Whether two are in the same unit. */
const kin = (a: Quantity, b: Quantity) => unitOfRatio(a, b) === '×'

function unitOfRatio(mine: Quantity, theirs: Quantity | undefined): string {
  const unit = (q: Quantity | undefined) => ({ angle: '°', waves: 'waves', plain: '×' })[q as string] ?? 'm'
  return unit(mine) === unit(theirs) ? '×' : `${unit(mine)}/${unit(theirs)}`
}

/** A value that follows another, by a ratio and an offset. */
function FollowFields({
  slot,
  value: v,
  name,
  keep,
  sets,
}: {
  slot: Slot
  value: Extract<Value, { of: string }>
  name: string
  keep: (said: string, v: Value) => void
  sets: (said: string, to: (x: number) => Value) => { onPreview: (x: number) => void; onCommit: (x: number) => void }
}) {
  const doc = useBench((b) => b.doc)!
  return (
    <>
      <Pick
        label="Follows"
        value={v.of}
        options={allSlots(doc)
          .filter((s) => s.ref !== slot.ref)
          .map((s) => s.ref)}
        names={Object.fromEntries(allSlots(doc).map((s) => [s.ref, s.name]))}
        onChange={(to) => {
          const other = allSlots(doc).find((s) => s.ref === to)!
          const same = kin(other.quantity, slot.quantity)
          keep(`let ${name} follow ${other.name}`, { ...v, of: to, ...(same ? {} : { ratio: v.ratio ?? 1 }) })
        }}
      />
      <Pair>
        <NumberField
          label="Times"
          value={v.ratio ?? 1}
          quantity="plain"
          unit={unitOfRatio(slot.quantity, allSlots(doc).find((s) => s.ref === v.of)?.quantity)}
          {...sets('set the ratio', (x) => ({ ...v, ratio: x }))}
        />
        <NumberField
          label="Plus"
          value={v.offset ?? 0}
          quantity={slot.quantity}
          {...sets('set what is added', (x) => ({ ...v, offset: x }))}
        />
      </Pair>
    </>
  )
}

function RollsFields({
  value: v,
  onPath,
  keep,
  sets,
  children,
}: {
  value: Rolling
  onPath: boolean
  keep: (said: string, v: Value) => void
  sets: (said: string, to: (x: number) => Value) => { onPreview: (x: number) => void; onCommit: (x: number) => void }
  children: React.ReactNode
}) {
  const carriers = useBench((b) => b.doc?.carriers) ?? []
  const side = v.side ?? 'path'
  return (
    <>
      <Pick
        label="Rolls with"
        value={v.rolls}
        options={carriers.map((c) => c.id)}
        names={Object.fromEntries(carriers.map((c) => [c.id, c.name]))}
        onChange={(to) => keep('roll with another carrier', { ...v, rolls: to })}
      />
      <Pick
        label="At its side"
        value={side}
        options={[...(onPath ? (['path'] as const) : []), 'left', 'middle', 'right'] as const}
        names={{ path: 'where the path lies' }}
        onChange={(to) => {
          const { gauge, ...rest } = v
          delete rest.side
          keep(
            'roll at another side',
            to === 'path' ? rest : { ...rest, side: to, ...(to === 'middle' ? {} : { gauge: gauge ?? 1 }) },
          )
        }}
      />
      {v.side && v.side !== 'middle' && (
        <NumberField
          label="Track gauge, left to right"
          value={v.gauge ?? 0}
          quantity="distance"
          min={1e-6}
          {...sets('set the track gauge', (x) => ({ ...v, gauge: x }))}
        />
      )}
      {children}
      <Choice
        label="Which way it rolls"
        value={v.flip ? 'the other way' : 'over the ground'}
        options={['over the ground', 'the other way'] as const}
        onChange={(to) => keep('roll the other way', { ...v, flip: to === 'the other way' || undefined })}
      />
    </>
  )
}

/** The wheels of the belt that a distance is on: one turn of a sprocket is a pitch a tooth. */
function WheelPick({
  of,
  value,
  onChange,
}: {
  of: string
  value: number
  onChange: (radius: number, name: string) => void
}) {
  const [list, id] = of.split('/')
  const wheels = useBench((b) => {
    const path =
      list === 'rigs'
        ? b.doc?.rigs.find((r) => r.id === id)?.path
        : b.doc?.carriers?.find((c) => c.id === id)?.ride?.path
    return b.doc?.paths.find((p) => p.id === path)?.shape.wrap?.wheels
  })
  if (!wheels) return null
  const radii = wheels.map((w) => (w.teeth ? (w.teeth * (w.pitch ?? 0)) / (2 * Math.PI) : (w.radius ?? 0)))
  const at = radii.findIndex((r) => Math.abs(r - value) < 1e-9)
  return (
    <Pick
      inline
      label="Turned by"
      value={at < 0 ? '' : String(at)}
      options={['', ...wheels.map((_, i) => String(i))]}
      names={{ '': 'a radius', ...Object.fromEntries(wheels.map((w, i) => [String(i), w.name])) }}
      onChange={(i) => i && onChange(radii[Number(i)]!, wheels[Number(i)]!.name)}
    />
  )
}
