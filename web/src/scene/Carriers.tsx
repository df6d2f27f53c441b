import { Line } from '@react-three/drei'
import { useThree, type ThreeEvent } from '@react-three/fiber'
import { useMemo } from 'react'
import { Plane, Vector3 } from 'three'
import { presentOf, slotsOf, type Slot } from '../core/keys'
import { shifted } from '../core/value'
import { useBench } from '../stores/bench'
import { useClock } from '../stores/clock'
import { useView } from '../stores/prefs'
import type { Roles } from '../look/theme'
import { Tag } from './PathMarks'
import { follow, onPlane } from './pointing'
import { Posed, poseMatrix } from './Posed'
import { SteadySize } from './SteadySize'
import { rightClick } from './rightClick'

/** The carriers: each a hoop with its heading, to be chosen, pulled over the ground and turned. */
export function Carriers({ roles, size }: { roles: Roles; size: number }) {
  const carriers = useBench((b) => b.answer?.doc.carriers)
  const selected = useBench((b) => (b.selected?.kind === 'carrier' ? b.selected.id : ''))
  return (
    <>
      {carriers?.map((c, i) => (
        <Posed key={c.id} space="carriers" index={i}>
          <Hoop id={c.id} name={c.name} index={i} chosen={selected === c.id} roles={roles} size={size} />
        </Posed>
      ))}
    </>
  )
}

function Hoop({
  id,
  name,
  index,
  chosen,
  roles,
  size,
}: {
  id: string
  name: string
  index: number
  chosen: boolean
  roles: Roles
  size: number
}) {
  const camera = useThree((s) => s.camera)
  const element = useThree((s) => s.gl.domElement)
  const r = size * 0.075
  const ring = useMemo(
    () =>
      Array.from({ length: 49 }, (_, i) => {
        const a = (i / 48) * 2 * Math.PI
        return new Vector3(r * Math.sin(a), 0, r * Math.cos(a))
      }),
    [r],
  )
  const colour = chosen ? roles.kelp : roles.slate
  const nose = new Vector3(0, 0, r * 1.5)

  /** Moves the carrier, in its parent's space, by what the pointer moves in the world. */
  function pull(e: ThreeEvent<PointerEvent>, what: 'place' | 'lift' | 'turn') {
    if (e.button !== 0 || useBench.getState().tool.kind !== 'none') return
    e.stopPropagation()
    const bench = useBench.getState()
    bench.select({ kind: 'carrier', id })
    const doc = bench.base!
    const frame = useClock.getState().frame
    useClock.getState().pause()
    const slots = slotsOf(doc, 'carrier', id)
    const by = (key: string) => slots.find((s) => s.key === key)!
    const present = (s: Slot) => presentOf(s, doc, bench.answer?.readout.values, bench.shot.values)
    const now = { x: present(by('x')), y: present(by('y')), z: present(by('z')), heading: present(by('heading')) }
    const own = poseMatrix(bench.shot.carriers[index])
    const at = new Vector3().setFromMatrixPosition(own)
    const carrier = doc.carriers![index]!
    const parent = doc.carriers!.findIndex((c) => c.id === (carrier.parent ?? (doc.master === id ? '' : doc.master)))
    const intoParent = poseMatrix(parent < 0 || carrier.ride ? undefined : bench.shot.carriers[parent]).invert()
    const eye = camera.getWorldDirection(new Vector3()).setY(0).normalize()
    const plane = new Plane().setFromNormalAndCoplanarPoint(what === 'lift' ? eye : new Vector3(0, 1, 0), at)
    const grabbed = onPlane(camera, element, e.nativeEvent.clientX, e.nativeEvent.clientY, plane)
    if (!grabbed) return
    const angle = (p: Vector3) => (Math.atan2(p.x - at.x, p.z - at.z) * 180) / Math.PI
    let moved = false
    let turned = 0
    let last = angle(grabbed)
    useView.getState().setPulling(true)
    follow(
      (ev) => {
        const hit = onPlane(camera, element, ev.clientX, ev.clientY, plane)
        if (!hit || hit.distanceTo(at) > 1e5) return
        moved = true
        if (what === 'turn') {
          const step = ((((angle(hit) - last + 540) % 360) + 360) % 360) - 180
          turned += step
          last = angle(hit)
          const to = ev.shiftKey ? Math.round((now.heading + turned) / 15) * 15 - now.heading : turned
          bench.preview((d) => by('heading').put(d, shifted(by('heading').get(doc), to, frame, now.heading)))
          return
        }
        const delta = hit.sub(grabbed)
        if (what === 'lift') delta.set(0, delta.y, 0)
        const far = delta.length()
        delta.transformDirection(intoParent).multiplyScalar(far)
        bench.preview((d) => {
          for (const [key, by_] of [
            ['x', delta.x],
            ['y', delta.y],
            ['z', delta.z],
          ] as const) {
            if (Math.abs(by_) > 1e-12) by(key).put(d, shifted(by(key).get(doc), by_, frame, now[key]))
          }
        })
      },
      (kept) => {
        useView.getState().setPulling(false)
        if (!moved) return
        if (kept)
          useBench.getState().commit({ place: `move ${name}`, lift: `lift ${name}`, turn: `turn ${name}` }[what])
        else useBench.getState().cancel()
      },
    )
  }
  const knob = (at: Vector3, what: 'place' | 'lift' | 'turn', cursor: string, radius: number) => (
    <SteadySize position={at}>
      <mesh
        renderOrder={8}
        onPointerDown={(e) => pull(e, what)}
        onContextMenu={rightClick('carrier', id)}
        onPointerOver={() => (element.style.cursor = cursor)}
        onPointerOut={() => (element.style.cursor = '')}
      >
        <sphereGeometry args={[radius, 16, 12]} />
        <meshBasicMaterial color={colour} depthTest={false} transparent opacity={chosen ? 1 : 0.7} />
      </mesh>
    </SteadySize>
  )
  return (
    <>
      <Line
        points={ring}
        color={colour}
        lineWidth={chosen ? 2 : 1.2}
        depthTest={!chosen}
        transparent
        opacity={chosen ? 1 : 0.6}
        renderOrder={5}
      />
      <Line
        points={[new Vector3(0, 0, r), nose]}
        color={colour}
        lineWidth={chosen ? 2 : 1.2}
        depthTest={!chosen}
        renderOrder={5}
      />
      {knob(new Vector3(), 'place', 'move', chosen ? 6.5 : 5)}
      {chosen && knob(nose, 'turn', 'grab', 5.5)}
      {chosen && knob(new Vector3(0, r, 0), 'lift', 'ns-resize', 5)}
      {chosen && (
        <>
          <Line
            points={[new Vector3(), new Vector3(0, r, 0)]}
            color={colour}
            lineWidth={1.2}
            depthTest={false}
            renderOrder={5}
          />
          <Tag at={new Vector3(0, r, 0)} colour={roles.kelpText} roles={roles} shift="translate(10px, -60%)">
            {name}
          </Tag>
        </>
      )}
    </>
  )
}
