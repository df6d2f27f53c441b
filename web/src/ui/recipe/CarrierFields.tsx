import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import { useTheme } from '@mui/material/styles'
import { moveToCarrier } from '../../api/client'
import type { Carrier, Document, Tug } from '../../core/page.generated'
import { slotsOf, type Slot } from '../../core/slots'
import { addPath, sourceOf, withKey } from '../../core/value'
import { presentOf } from '../../core/slots'
import { useBench } from '../../stores/bench'
import { useClock } from '../../stores/clock'
import { Choice, Pick } from '../fields/fields'
import { AutoField } from '../fields/AutoField'
import { NumberField } from '../fields/NumberField'
import { SlotField } from '../fields/SlotField'
import { takeOver } from '../../stores/takeOver'
import { threeFields } from '../../look/theme'

/** Sets keys of all given values at the play head, as they are there. */
export function keyAll(slots: readonly Slot[], label: string) {
  const { doc, answer, shot, edit } = useBench.getState()
  const frame = useClock.getState().frame
  edit(label, (d) => {
    for (const s of slots) {
      if (!['set', 'keys'].includes(sourceOf(s.get(doc!)))) continue
      s.put(d, withKey(s.get(doc!), frame, presentOf(s, doc!, answer?.readout.values, shot.values)))
    }
  })
}

/** Puts a thing on another carrier; its place in the world stays. */
const ride = (kind: 'carrier' | 'path' | 'fixture', id: string, carrier: string, name: string) =>
  takeOver(`let ${name} ride elsewhere`, (d) => moveToCarrier(d, kind, id, carrier, useClock.getState().frame))

/** What a path, fixture or carrier rides on, where there is something to ride on. */
export function RidesOn({
  kind,
  id,
  name,
  carrier,
}: {
  kind: 'carrier' | 'path' | 'fixture'
  id: string
  name: string
  carrier: string | undefined
}) {
  const carriers = (useBench((b) => b.doc?.carriers) ?? []).filter((c) => kind !== 'carrier' || c.id !== id)
  const master = useBench((b) => b.doc?.carriers?.find((c) => c.id === b.doc!.master)?.name)
  if (carriers.length === 0) return null
  return (
    <Pick
      inline
      label="Rides on"
      value={carrier ?? ''}
      options={['', ...carriers.map((c) => c.id)]}
      names={{
        '': master && id !== undefined ? `${master}, as all` : 'the world',
        ...Object.fromEntries(carriers.map((c) => [c.id, c.name])),
      }}
      onChange={(to) => void ride(kind, id, to, name)}
    />
  )
}

/** Where a carrier is, how it turns and what it rides on. */
export function CarrierFields({ carrier, index }: { carrier: Carrier; index: number }) {
  const { roles } = useTheme()
  const doc = useBench((b) => b.doc)!
  const edit = useBench((b) => b.edit)
  const slots = slotsOf(doc, 'carrier', carrier.id)
  const by = (key: string) => slots.find((s) => s.key === key)!
  const of = (d: Document) => d.carriers![index]!
  const rides = doc.paths.filter((p) => !p.shape.track)
  const aboard = [...doc.paths, ...(doc.fixtures ?? [])].filter((x) => x.carrier === carrier.id).map((x) => x.name)
  const upon = (doc.carriers ?? []).filter((c) => c.parent === carrier.id).map((c) => c.name)
  const list = [...upon, ...aboard]
  const preview = useBench((b) => b.preview)
  // Belts aboard with wheels on the ground.
  const roads = doc.paths.some(
    (p) => (p.carrier ?? doc.master) === carrier.id && p.shape.wrap?.wheels.some((w) => w.ground),
  )
  return (
    <Box sx={{ display: 'grid', gap: 1.25 }}>
      {!carrier.ride && <RidesOn kind="carrier" id={carrier.id} name={carrier.name} carrier={carrier.parent} />}
      {rides.length > 0 && (
        <Pick
          inline
          label="Along a path"
          value={carrier.ride?.path ?? ''}
          options={['', ...rides.map((p) => p.id)]}
          names={{ '': 'none', ...Object.fromEntries(rides.map((p) => [p.id, p.name])) }}
          onChange={(to) =>
            edit(to ? `ride along a path` : 'leave the path', (d) => {
              const c = of(d)
              if (!to) delete c.ride
              else {
                delete c.parent
                c.ride = { path: to, distance: c.ride?.distance ?? 0, turning: c.ride?.turning ?? 'with the path' }
                if (!carrier.ride) c.at = [0, 0, 0]
              }
            })
          }
        />
      )}
      {carrier.ride && (
        <>
          <SlotField slot={by('distance')} label="Distance on the path" />
          <Choice
            label="How it turns"
            value={carrier.ride.turning ?? 'with the path'}
            options={['with the path', 'level', 'none'] as const}
            onChange={(v) => edit(`turn ${v}`, (d) => void (of(d).ride!.turning = v))}
          />
        </>
      )}
      <Box role="group" aria-label="Place" sx={threeFields}>
        <SlotField slot={by('x')} label="X" />
        <SlotField slot={by('y')} label="Y" />
        <SlotField slot={by('z')} label="Z" />
        <SlotField slot={by('heading')} label="Heading" />
        <SlotField slot={by('pitch')} label="Pitch" />
        <SlotField slot={by('bank')} label="Bank" />
      </Box>
      <Button variant="outlined" onClick={() => keyAll(slots, `key the place of ${carrier.name}`)}>
        Key its place at this frame
      </Button>
      {(carrier.ground || roads) && !carrier.ride && (
        <Choice
          label="On the ground"
          value={carrier.ground ? 'rides on the ground' : 'free'}
          options={['free', 'rides on the ground'] as const}
          onChange={(v) =>
            edit(
              v === 'free' ? `lift ${carrier.name} off the ground` : `let ${carrier.name} ride on the ground`,
              (d) => {
                if (v === 'free') delete of(d).ground
                else of(d).ground = {}
              },
            )
          }
        />
      )}
      {carrier.ground && (
        <AutoField
          label="Jolts softened over"
          at="carriers/*/ground/soften"
          word="not at all"
          start={6}
          value={carrier.ground.soften || undefined}
          onSet={(v) => edit('soften the ride', (d) => void (of(d).ground!.soften = v))}
          quantity="plain"
          unit="frames"
          onPreview={(v) => preview((d) => void (of(d).ground!.soften = v || undefined))}
          onCommit={(v) => edit('soften the ride', (d) => void (of(d).ground!.soften = v || undefined))}
        />
      )}
      <Choice
        label="What it carries"
        value={doc.master === carrier.id ? 'everything' : 'what rides on it'}
        options={['what rides on it', 'everything'] as const}
        onChange={(v) =>
          edit(v === 'everything' ? `let ${carrier.name} carry all` : 'have no master', (d) => {
            if (v === 'everything') d.master = carrier.id
            else delete d.master
          })
        }
      />
      <Button
        variant="outlined"
        onClick={() => {
          let id = ''
          edit(`add the track of ${carrier.name}`, (d) => {
            id = addPath(d, `Track of ${carrier.name}`, { track: { carrier: carrier.id } })
          })
          useBench.getState().select({ kind: 'path', id })
        }}
      >
        Make a path of its track
      </Button>
      <Box sx={{ color: roles.secondary, fontSize: 11 }}>
        {list.length > 0
          ? `Aboard: ${list.join(', ')}.`
          : 'Nothing rides on it yet: choose it under Rides on of a path, fixture or carrier.'}
      </Box>
    </Box>
  )
}

/** What a tug holds, how far its hold reaches, and its pull. */
export function TugFields({ tug, index }: { tug: Tug; index: number }) {
  const doc = useBench((b) => b.doc)!
  const edit = useBench((b) => b.edit)
  const preview = useBench((b) => b.preview)
  const slots = slotsOf(doc, 'tug', tug.id)
  const of = (d: Document) => d.tugs![index]!
  const path = doc.paths.find((p) => p.id === tug.path)
  const count = path ? countPoints(doc, tug.path) : 0
  const holders = doc.paths.filter((p) => countPoints(doc, p.id) > 0)
  const carriers = doc.carriers ?? []
  // No id holds a blank, so that a wheel's key is no carrier's.
  const hubs = doc.paths.flatMap((p) =>
    (p.shape.wrap?.wheels ?? []).map((w, i) => ({
      key: `${p.id} ${i + 1}`,
      name: `${w.name} of ${p.name}`,
      path: p.id,
      wheel: i + 1,
    })),
  )
  return (
    <Box sx={{ display: 'grid', gap: 1.25 }}>
      <Pick
        inline
        label="Holds points of"
        value={tug.path}
        options={holders.map((p) => p.id)}
        names={Object.fromEntries(holders.map((p) => [p.id, p.name]))}
        onChange={(to) =>
          edit('hold another path', (d) => {
            of(d).path = to
            of(d).points = [1]
            delete of(d).handle
          })
        }
      />
      <Box role="group" aria-label="Points held" sx={{ display: 'flex', flexWrap: 'wrap', gap: 0.5 }}>
        {Array.from({ length: Math.min(count, 60) }, (_, i) => i + 1).map((n) => {
          const on = tug.points.includes(n)
          return (
            <Button
              key={n}
              variant={on ? 'contained' : 'outlined'}
              aria-pressed={on}
              aria-label={`Point ${n}`}
              sx={{ minWidth: 30, minHeight: 24, p: 0 }}
              onClick={() => {
                const next = on ? tug.points.filter((p) => p !== n) : [...tug.points, n].sort((a, b) => a - b)
                if (next.length)
                  edit(on ? `let go of point ${n}` : `hold point ${n}`, (d) => void (of(d).points = next))
                else useBench.getState().say('A handle pulls at least one point.')
              }}
            >
              {n}
            </Button>
          )
        })}
      </Box>
      {path?.shape.spline && (
        <Choice
          label="What it pulls"
          value={tug.handle ?? 'both'}
          options={['both', 'in', 'out'] as const}
          names={{ both: 'the points', in: 'tangents in', out: 'tangents out' }}
          onChange={(v) => edit(`hold ${v}`, (d) => void (of(d).handle = v))}
        />
      )}
      <NumberField
        label="Falls off over"
        at="tugs/*/reach"
        value={tug.reach ?? 0}
        quantity="distance"
        onPreview={(v) => preview((d) => void (of(d).reach = v))}
        onCommit={(v) => edit('set the reach', (d) => void (of(d).reach = v))}
      />
      <Box role="group" aria-label="Pull" sx={threeFields}>
        <SlotField slot={slots[0]!} label="Pull x" />
        <SlotField slot={slots[1]!} label="Pull y" />
        <SlotField slot={slots[2]!} label="Pull z" />
      </Box>
      <Button variant="outlined" onClick={() => keyAll(slots, `key the pull of ${tug.name}`)}>
        Key its pull at this frame
      </Button>
      {carriers.length + hubs.length > 0 && (
        <Pick
          inline
          label="Rides on"
          value={tug.wheel ? `${tug.wheel.path} ${tug.wheel.wheel}` : (tug.carrier ?? '')}
          options={['', ...carriers.map((c) => c.id), ...hubs.map((h) => h.key)]}
          names={{
            '': 'nothing',
            ...Object.fromEntries(carriers.map((c) => [c.id, c.name])),
            ...Object.fromEntries(hubs.map((h) => [h.key, h.name])),
          }}
          onChange={(to) =>
            edit('let the tug ride', (d) => {
              const hub = hubs.find((h) => h.key === to)
              delete of(d).wheel
              delete of(d).carrier
              if (hub) of(d).wheel = { path: hub.path, wheel: hub.wheel }
              else if (to) of(d).carrier = to
            })
          }
        />
      )}
    </Box>
  )
}

/** The number of points of a path that tugs can hold. */
export function countPoints(d: Document, path: string): number {
  const s = d.paths.find((p) => p.id === path)?.shape
  return (s?.spline ?? s?.bspline ?? s?.polyline)?.points.length ?? 0
}
