import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import { useTheme } from '@mui/material/styles'
import { acrossOf, aims, lensOf, lookFrom, moverOf, pictureSize, upOf, type Mover } from '../../core/camera'
import { slotsOf } from '../../core/slots'
import type { Camera, Document } from '../../core/page.generated'
import { presentEye } from '../../scene/presentEye'
import { useBench } from '../../stores/bench'
import { useClock } from '../../stores/clock'
import { useView } from '../../stores/prefs'
import { Choice, Pair, Pick } from '../fields/fields'
import { NumberField } from '../fields/NumberField'
import { SlotField } from '../fields/SlotField'
import { keyAll } from './CarrierFields'
import { threeFields } from '../../look/theme'

const sizes: [string, number, number][] = [
  ['1280 × 720', 1280, 720],
  ['1920 × 1080', 1920, 1080],
  ['3840 × 2160', 3840, 2160],
  ['1080 × 1080, square', 1080, 1080],
  ['1080 × 1920, upright', 1080, 1920],
]

/** A camera: where it stands or what moves it, what it looks at, its lens and its picture. */
export function CameraFields({ camera, index }: { camera: Camera; index: number }) {
  const { roles } = useTheme()
  const doc = useBench((b) => b.doc)!
  const edit = useBench((b) => b.edit)
  const angle = useBench((b) => b.shot.cameras[index]?.[7])
  const through = useView((v) => v.through === camera.id)
  const slots = slotsOf(doc, 'camera', camera.id)
  const by = (key: string) => slots.find((s) => s.key === key)!
  const of = (d: Document) => d.cameras![index]!
  const mover = moverOf(camera)
  const things = aims(doc)
  const [w, h] = pictureSize(camera)
  const rides = doc.paths.filter((p) => !p.shape.track)
  const movers: Mover[] = [
    'stands',
    ...(doc.carriers?.length ? (['carrier'] as const) : []),
    ...(rides.length ? (['ride'] as const) : []),
    ...(things.length ? (['beside'] as const) : []),
  ]
  const key = (x: { kind: string; id: string }) => `${x.kind} ${x.id}`
  const names = Object.fromEntries(things.map((x) => [key(x), x.name]))
  const named = (x: { rig?: string; carrier?: string } | undefined) =>
    x?.rig ? `rig ${x.rig}` : x?.carrier ? `carrier ${x.carrier}` : ''
  const put = (to: string) => {
    const [kind, id] = to.split(' ') as ['rig' | 'carrier', string]
    return { [kind]: id }
  }
  const size = sizes.find(([, a, b]) => a === w && b === h)
  const side = (field: 'width' | 'height', label: string, value: number) => (
    <NumberField
      label={label}
      value={value}
      quantity="count"
      unit="px"
      at={`cameras/*/${field}`}
      onCommit={(v) => edit(`size the picture of ${camera.name}`, (d) => void (of(d)[field] = Math.round(v)))}
    />
  )
  const takesIn = (label: string, radians: number, lens: (radians: number) => number) => (
    <NumberField
      label={label}
      value={(radians * 180) / Math.PI}
      quantity="angle"
      min={1}
      max={150}
      disabled={typeof (camera.lens ?? 0) !== 'number'}
      onCommit={(v) => edit(`another lens for ${camera.name}`, (d) => void (of(d).lens = lens((v * Math.PI) / 180)))}
    />
  )
  return (
    <Box sx={{ display: 'grid', gap: 1.25 }}>
      <Pair>
        <Button
          variant={through ? 'outlined' : 'contained'}
          aria-pressed={through}
          onClick={() => useView.setState({ through: through ? null : camera.id })}
        >
          {through ? 'Look from outside' : 'Look through it'}
        </Button>
        <Button
          variant="outlined"
          disabled={through || !!(camera.ride && camera.aim)}
          title={
            camera.ride && camera.aim
              ? 'It goes along a path and looks at something: move it by its numbers.'
              : 'It looks as the view does now; what is keyed gets keys here.'
          }
          onClick={() => {
            const eye = presentEye()
            const { shot, answer } = useBench.getState()
            if (!eye) return
            edit(`let ${camera.name} look from here`, (d) =>
              lookFrom(d, index, eye, {
                frame: useClock.getState().frame,
                values: shot.values,
                moving: answer?.readout.values,
                pose: shot.cameras[index],
                carrier: shot.carriers[doc.carriers?.findIndex((c) => c.id === camera.carrier) ?? -1],
              }),
            )
          }}
        >
          From here
        </Button>
      </Pair>
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
      <Button variant="outlined" onClick={() => keyAll(slots, `key the place of ${camera.name}`)}>
        Key its place and lens at this frame
      </Button>
      <Pair>
        <SlotField slot={by('lens')} label="Lens, mm" />
        <Pick
          label="Picture"
          value={size ? size[0] : 'own'}
          options={[...sizes.map(([n]) => n), 'own']}
          names={{ own: 'another size' }}
          onChange={(v) => {
            const to = sizes.find(([n]) => n === v)
            edit(`size the picture of ${camera.name}`, (d) => {
              of(d).width = to ? to[1] : 1000
              of(d).height = to ? to[2] : 1000
            })
          }}
        />
      </Pair>
      {!size && (
        <Pair>
          {side('width', 'Width', w)}
          {side('height', 'Height', h)}
        </Pair>
      )}
      {angle !== undefined && (
        <Pair>
          {takesIn('Takes in, across', acrossOf(angle, w / h), (a) => lensOf(upOf(a, w / h), [w, h]))}
          {takesIn('Takes in, up', angle, (a) => lensOf(a, [w, h]))}
        </Pair>
      )}
      <Box sx={{ color: roles.secondary, fontSize: 11 }}>The lens is that of a picture 36 mm wide.</Box>
      <Button variant="outlined" onClick={() => useBench.setState({ panel: 'film' })}>
        Film and stills
      </Button>
    </Box>
  )
}
