import { useThree, type ThreeEvent } from '@react-three/fiber'
import { useMemo, useState } from 'react'
import { Plane, Vector3, type Matrix4 } from 'three'
import type { Document } from '../core/page.generated'
import type { Kind } from '../core/refs'
import { useBench } from '../stores/bench'
import { useClock } from '../stores/clock'
import { useView } from '../stores/prefs'
import type { Roles } from '../look/theme'
import { Tag } from './PathMarks'
import { follow, onPlane } from './pointing'
import { SteadySize } from './SteadySize'
import { rightClick } from './rightClick'
import { Line } from './Line'

/** How a thing is moved and turned: what is needed from the press on. */
export interface Grip {
  /** The place that it turns about, in the world. */
  at: Vector3
  /** From the space in which it stands to the world. */
  parent: Matrix4
  /** Its heading now, degrees. */
  heading: number
  /** Moves it by so much in its parent's space and turns it by degrees, from where it was at the press. */
  put: (d: Document, by: Vector3, turned: number) => void
  /** Makes it so many times as large as at the press: put while it is pulled, where it can, and keep at the end. */
  resize?: {
    put?: (d: Document, times: number) => void
    /** False where nothing came of it. */
    keep: (times: number) => Promise<boolean> | void
  }
}

type What = 'place' | 'lift' | 'turn' | 'size'

/** A hoop on the ground about a thing, with knobs to move, turn, lift and resize it. */
export function Hoop({
  kind,
  id,
  name,
  centre,
  radius: r,
  chosen,
  sized,
  ghost,
  onSize,
  roles,
  grip,
}: {
  kind: Kind
  id: string
  name: string
  /** Its middle in the space that it is drawn in. */
  centre?: Vector3
  radius: number
  chosen: boolean
  /** What its cube makes larger or smaller; without one it has no cube. */
  sized?: string
  /** Its line about the place that it grows from, in the space that it is drawn in; shown while the size is pulled. */
  ghost?: { about: Vector3; points: Vector3[] }
  /** Called with the size while it is pulled, and with 1 afterwards. */
  onSize?: (times: number) => void
  roles: Roles
  grip: () => Grip
}) {
  const camera = useThree((s) => s.camera)
  const element = useThree((s) => s.gl.domElement)
  const ring = useMemo(
    () =>
      Array.from({ length: 49 }, (_, i) => {
        const a = (i / 48) * 2 * Math.PI
        return new Vector3(r * Math.sin(a), 0, r * Math.cos(a))
      }),
    [r],
  )
  // How many times as large as at the press; valid until its drawing changes.
  const [pulled, setPulled] = useState({ times: 1, of: ghost })
  const times = pulled.of === ghost ? pulled.times : 1
  const show = (size: number) => {
    setPulled({ times: size, of: ghost })
    onSize?.(size)
  }
  const colour = chosen ? roles.kelp : roles.slate
  const nose = new Vector3(0, 0, r * 1.5)
  const corner = new Vector3(r * times * Math.SQRT1_2, 0, -r * times * Math.SQRT1_2)

  function pull(e: ThreeEvent<PointerEvent>, what: What) {
    if (e.button !== 0 || useBench.getState().tool.kind !== 'none') return
    // A point of the path that lies at the same place goes first.
    if (e.intersections.some((i) => i.object.userData.point)) return
    e.stopPropagation()
    const bench = useBench.getState()
    if (!chosen) bench.select({ kind, id })
    useClock.getState().pause()
    const { at, parent, heading, put, resize } = grip()
    const intoParent = parent.clone().invert()
    const eye = camera.getWorldDirection(new Vector3())
    const level = eye.clone().setY(0).normalize()
    // Seen square on from the side it is pulled in that plane.
    const flat = (what === 'place' || what === 'size') && Math.abs(eye.y) < 0.05
    const plane = new Plane().setFromNormalAndCoplanarPoint(what === 'lift' || flat ? level : new Vector3(0, 1, 0), at)
    const grabbed = onPlane(camera, element, e.nativeEvent.clientX, e.nativeEvent.clientY, plane)
    if (!grabbed) return
    const angle = (p: Vector3) => (Math.atan2(p.x - at.x, p.z - at.z) * 180) / Math.PI
    let moved = false
    let turned = 0
    let size = 1
    let last = angle(grabbed)
    useView.getState().setPulling(true)
    follow(
      (ev) => {
        const hit = onPlane(camera, element, ev.clientX, ev.clientY, plane)
        if (!hit || hit.distanceTo(at) > 1e5) return
        moved = true
        if (what === 'turn') {
          turned += ((((angle(hit) - last + 540) % 360) + 360) % 360) - 180
          last = angle(hit)
          const to = ev.shiftKey ? Math.round((heading + turned) / 15) * 15 - heading : turned
          bench.preview((d) => put(d, new Vector3(), to))
          return
        }
        if (what === 'size') {
          const far = hit.distanceTo(at) / Math.max(grabbed.distanceTo(at), 1e-9)
          size = Number(Math.min(Math.max(far, 0.05), 20).toPrecision(ev.shiftKey ? 2 : 3))
          show(size)
          if (resize?.put) bench.preview((d) => resize.put!(d, size))
          return
        }
        const delta = hit.sub(grabbed)
        if (what === 'lift') delta.set(0, delta.y, 0)
        const far = delta.length()
        bench.preview((d) => put(d, delta.transformDirection(intoParent).multiplyScalar(far), 0))
      },
      (kept) => {
        useView.getState().setPulling(false)
        if (!moved) return
        if (kept && what === 'size') {
          const made = resize?.keep(size)
          if (!made) show(1)
          else void made.then((came) => !came && show(1))
          return
        }
        if (what === 'size') show(1)
        if (!kept) useBench.getState().cancel()
        else
          useBench
            .getState()
            .commit({ place: `move ${name}`, lift: `lift ${name}`, turn: `turn ${name}`, size: '' }[what])
      },
    )
  }
  const knob = (at: Vector3, what: What, cursor: string, radius: number) => (
    <SteadySize position={at}>
      <mesh
        renderOrder={8}
        onPointerDown={(e) => pull(e, what)}
        onContextMenu={rightClick(kind, id)}
        onPointerOver={() => (element.style.cursor = cursor)}
        onPointerOut={() => (element.style.cursor = '')}
      >
        {what === 'size' ? (
          <boxGeometry args={[2 * radius, 2 * radius, 2 * radius]} />
        ) : (
          <sphereGeometry args={[radius, 16, 12]} />
        )}
        <meshBasicMaterial color={colour} depthTest={false} transparent opacity={chosen ? 1 : 0.7} />
      </mesh>
    </SteadySize>
  )
  return (
    <>
      {ghost && times !== 1 && (
        <group position={ghost.about}>
          <Line points={ghost.points} scale={times} color={colour} lineWidth={1.6} renderOrder={5} />
        </group>
      )}
      <group position={centre}>
        <Line
          points={ring}
          scale={times}
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
        {chosen && sized && knob(corner, 'size', 'nesw-resize', 5)}
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
              {times === 1 ? name : `${sized}, ${times} times as large`}
            </Tag>
          </>
        )}
      </group>
    </>
  )
}
