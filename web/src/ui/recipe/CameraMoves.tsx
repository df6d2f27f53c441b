import Box from '@mui/material/Box'
import { aims, moverOf, type Mover } from '../../core/camera'
import { slotsOf } from '../../core/slots'
import type { Camera, Document } from '../../core/page.generated'
import { presentEye } from '../../scene/presentEye'
import { useBench } from '../../stores/bench'
import { Choice, Pick } from '../fields/fields'
import { SlotField } from '../fields/SlotField'
import { threeFields } from '../../look/theme'

interface OfCamera {
  camera: Camera
  index: number
}

/** What a camera refers to, as one word of a choice. */
const key = (x: { kind: string; id: string }) => `${x.kind} ${x.id}`
const named = (x: { rig?: string; carrier?: string } | undefined) =>
  x?.rig ? `rig ${x.rig}` : x?.carrier ? `carrier ${x.carrier}` : ''
const put = (to: string) => {
  const [kind, id] = to.split(' ') as ['rig' | 'carrier', string]
  return { [kind]: id }
}

/** What moves a camera: nothing, a carrier, a path or a thing that it goes alongside. */
export function CameraMoves({ camera, index }: OfCamera) {
  const doc = useBench((b) => b.doc)!
  const edit = useBench((b) => b.edit)
  const slots = slotsOf(doc, 'camera', camera.id)
  const by = (key: string) => slots.find((s) => s.key === key)!
  const of = (d: Document) => d.cameras![index]!
  const mover = moverOf(camera)
  const things = aims(doc)
  const names = Object.fromEntries(things.map((x) => [key(x), x.name]))
  const rides = doc.paths.filter((p) => !p.shape.track)
  const movers: Mover[] = [
    'stands',
    ...(doc.carriers?.length ? (['carrier'] as const) : []),
    ...(rides.length ? (['ride'] as const) : []),
    ...(things.length ? (['beside'] as const) : []),
  ]
  return (
    <>
      <Choice
        label="How it moves"
        value={mover}
        options={movers}
        names={{ stands: 'stands', carrier: 'on a carrier', ride: 'on a path', beside: 'alongside' }}
        hints={{ beside: 'It moves as something has moved since the first frame, without turning.' }}
        onChange={(v) =>
          edit(`move ${camera.name} otherwise`, (d) => {
            const c = of(d)
            delete c.carrier
            delete c.ride
            delete c.beside
            if (v === 'carrier') c.carrier = d.carriers![0]!.id
            if (v === 'ride') c.ride = { path: rides[0]!.id, distance: 0, turning: 'level' }
            if (v === 'beside') c.beside = put(key(things[0]!))
            if (v === 'ride' || v === 'carrier') c.at = [0, v === 'ride' ? 1 : 0, 0]
          })
        }
      />
      {camera.carrier && (
        <Pick
          inline
          label="Rides on"
          value={camera.carrier}
          options={doc.carriers!.map((c) => c.id)}
          names={Object.fromEntries(doc.carriers!.map((c) => [c.id, c.name]))}
          onChange={(v) => edit(`let ${camera.name} ride elsewhere`, (d) => void (of(d).carrier = v))}
        />
      )}
      {camera.beside && (
        <Pick
          inline
          label="Alongside"
          value={named(camera.beside)}
          options={things.map(key)}
          names={names}
          onChange={(v) => edit(`let ${camera.name} go alongside another`, (d) => void (of(d).beside = put(v)))}
        />
      )}
      {camera.ride && (
        <>
          <Pick
            inline
            label="Along"
            value={camera.ride.path}
            options={rides.map((p) => p.id)}
            names={Object.fromEntries(rides.map((p) => [p.id, p.name]))}
            onChange={(v) => edit(`send ${camera.name} along another path`, (d) => void (of(d).ride!.path = v))}
          />
          <SlotField slot={by('distance')} label="Distance on the path" />
          <Choice
            label="How it turns there"
            value={camera.ride.turning ?? 'level'}
            options={['with the path', 'level', 'none'] as const}
            onChange={(v) => edit(`turn ${v}`, (d) => void (of(d).ride!.turning = v))}
          />
        </>
      )}
    </>
  )
}

/** What a camera looks at, and where it stands and how it is turned by itself. */
export function CameraAim({ camera, index }: OfCamera) {
  const doc = useBench((b) => b.doc)!
  const edit = useBench((b) => b.edit)
  const slots = slotsOf(doc, 'camera', camera.id)
  const by = (key: string) => slots.find((s) => s.key === key)!
  const of = (d: Document) => d.cameras![index]!
  const things = aims(doc)
  const names = Object.fromEntries(things.map((x) => [key(x), x.name]))
  return (
    <>
      <Pick
        inline
        label="Looks at"
        value={camera.aim ? named(camera.aim) || 'place' : ''}
        options={['', 'place', ...things.map(key)]}
        names={{ '': 'where it is turned', place: 'a place', ...names }}
        onChange={(v) =>
          edit(`let ${camera.name} look elsewhere`, (d) => {
            const eye = presentEye()
            if (!v) delete of(d).aim
            else if (v === 'place') of(d).aim = { at: eye ? eye.target : [0, 0, 0] }
            else of(d).aim = put(v)
          })
        }
      />
      <Box role="group" aria-label="Place" sx={threeFields}>
        <SlotField slot={by('x')} label="X" />
        <SlotField slot={by('y')} label="Y" />
        <SlotField slot={by('z')} label="Z" />
        {!camera.aim && <SlotField slot={by('heading')} label="Heading" />}
        {!camera.aim && <SlotField slot={by('pitch')} label="Pitch" />}
        <SlotField slot={by('bank')} label="Bank" />
      </Box>
      {camera.aim && (
        <Box role="group" aria-label="What it looks at" sx={threeFields}>
          <SlotField slot={by('aim-x')} label={named(camera.aim) ? 'Off by X' : 'At X'} />
          <SlotField slot={by('aim-y')} label={named(camera.aim) ? 'Off by Y' : 'At Y'} />
          <SlotField slot={by('aim-z')} label={named(camera.aim) ? 'Off by Z' : 'At Z'} />
        </Box>
      )}
    </>
  )
}
