import { Euler, Matrix4, Quaternion, Vector3 } from 'three'
import type { Vec3 } from './forms'
import { presentOf, slotsOf, type Slot } from './slots'
import type { Camera, Document } from './page.generated'
import type { Kind } from './refs'
import { freeId, freeName, isKeyed, shifted, withKey } from './value'

// Cameras of the document: which way they look, and how a view is put into one.

/** Where a camera looks from and at, in the world. */
export interface Eye {
  at: Vec3
  ahead: Vec3
  up: Vec3
  /** What lies in the middle of the view. */
  target: Vec3
}

/** The size of a camera's picture in pixels. */
export const pictureSize = (c: Camera | undefined): [number, number] => [c?.width || 1280, c?.height || 720]

/** The angle across a picture for that from top to bottom, radians, and the other way round. */
export const acrossOf = (up: number, aspect: number) => 2 * Math.atan(Math.tan(up / 2) * aspect)
export const upOf = (across: number, aspect: number) => acrossOf(across, 1 / aspect)

/** The focal length on a picture 36 mm wide, mm, that takes in an angle from top to bottom, radians. */
export const lensOf = (angle: number, [w, h]: [number, number]) => (36 * h) / w / 2 / Math.tan(angle / 2)

/** The pose of a camera from where it looks: z ahead, y up. */
function poseOf({ at, ahead, up }: Eye): Matrix4 {
  const z = new Vector3(...ahead).normalize()
  const x = new Vector3(...up).cross(z).normalize()
  return new Matrix4().makeBasis(x, z.clone().cross(x), z).setPosition(...at)
}

/** A pose of position and rotation (x y z w) as a matrix; none moves nothing. */
function matrixOf(p: ArrayLike<number> | undefined): Matrix4 {
  const m = new Matrix4()
  return p ? m.compose(new Vector3(p[0], p[1], p[2]), new Quaternion(p[3], p[4], p[5], p[6]), new Vector3(1, 1, 1)) : m
}

const degree = 180 / Math.PI

/** Place and turns of a pose as documents have them: heading, pitch nose up, bank, in degrees. */
function told(m: Matrix4): Record<string, number> {
  const e = new Euler().setFromRotationMatrix(new Matrix4().extractRotation(m), 'YXZ')
  const p = new Vector3().setFromMatrixPosition(m)
  const round = (v: number) => Number(v.toFixed(6)) || 0
  return {
    x: round(p.x),
    y: round(p.y),
    z: round(p.z),
    heading: round(e.y * degree),
    pitch: round(-e.x * degree),
    bank: round(e.z * degree),
  }
}

/** The inverse of told. */
function posed(t: Record<string, number>): Matrix4 {
  const e = new Euler(-t.pitch! / degree, t.heading! / degree, t.bank! / degree, 'YXZ')
  const at = new Vector3(t.x, t.y, t.z)
  return new Matrix4().compose(at, new Quaternion().setFromEuler(e), new Vector3(1, 1, 1))
}

const places = ['x', 'y', 'z', 'heading', 'pitch', 'bank'] as const

/** What there is at the play head, for finding a camera's space. */
interface Now {
  frame: number
  values: ArrayLike<number>
  moving: readonly { ref: string }[] | undefined
  /** Where the camera is now, in the world, and the carrier that it rides on. */
  pose?: ArrayLike<number>
  carrier?: ArrayLike<number>
}

/** Lets a camera look as an eye does: what is keyed gets keys at the play head, and what it rides on stays. */
export function lookFrom(d: Document, index: number, eye: Eye, now: Now) {
  const slots = slotsOf(d, 'camera', d.cameras![index]!.id)
  const by = (key: string) => slots.find((s) => s.key === key)
  const present = (s: Slot) => presentOf(s, d, now.moving, now.values)
  const own = Object.fromEntries(places.map((k) => [k, present(by(k)!)]))
  const c = d.cameras![index]!
  // The space that it stands in.
  let space = new Matrix4()
  if (c.carrier) space = matrixOf(now.carrier)
  else if (now.pose && c.ride) space = matrixOf(now.pose).multiply(posed(own).invert())
  else if (now.pose && c.beside) {
    space.setPosition(now.pose[0]! - own.x!, now.pose[1]! - own.y!, now.pose[2]! - own.z!)
  }
  const to = told(space.clone().invert().multiply(poseOf(eye)))
  const put = (key: string, v: number) => {
    const s = by(key)
    if (!s) return
    const was = s.get(d)
    s.put(d, isKeyed(was) ? withKey(was, now.frame, v) : shifted(was, v - present(s), now.frame, present(s)))
  }
  for (const k of places) if (!c.aim || k.length === 1) put(k, to[k]!)
  if (c.aim && !c.aim.rig && !c.aim.carrier) {
    ;(['x', 'y', 'z'] as const).forEach((k, i) => put(`aim-${k}`, Number(eye.target[i]!.toFixed(6))))
  }
}

/** Adds a camera that looks as an eye does, with a lens for an angle from top to bottom in degrees; its id. */
export function addCamera(d: Document, eye: Eye, angle: number): string {
  d.cameras ??= []
  const name = freeName(d.cameras, 'Camera')
  const id = freeId(d.cameras, name)
  const lens = Number(lensOf(angle / degree, [1280, 720]).toFixed(1))
  d.cameras.push({ id, name, at: [0, 0, 0], turn: { heading: 0, pitch: 0, bank: 0 }, lens })
  lookFrom(d, d.cameras.length - 1, eye, { frame: 0, values: [], moving: undefined })
  return id
}

/** How a camera moves. */
export type Mover = 'stands' | 'carrier' | 'ride' | 'beside'
export const moverOf = (c: Camera): Mover => (c.carrier ? 'carrier' : c.ride ? 'ride' : c.beside ? 'beside' : 'stands')

/** What can be gone alongside or looked at. */
export const aims = (d: Document): { kind: Extract<Kind, 'rig' | 'carrier'>; id: string; name: string }[] => [
  ...d.rigs.map(({ id, name }) => ({ kind: 'rig' as const, id, name })),
  ...(d.carriers ?? []).map(({ id, name }) => ({ kind: 'carrier' as const, id, name })),
]
