import { Vector3, type Camera } from 'three'
import { groundAt } from '../core/ground'
import { wheelStride } from '../core/wire'
import { useBench } from '../stores/bench'
import { metresPerPixel } from './lens'
import { poseMatrix } from './Posed'

export type Axis = 'x' | 'y' | 'z'

/** Pixels within which a point goes to what is near it. */
const near = 9

/** The step of the grid that fits the picture: 1, 2 or 5 of a power of ten, at least so many pixels. */
export function gridStep(pixel: number, pixels = 40): number {
  const wish = pixel * pixels
  const power = 10 ** Math.floor(Math.log10(wish))
  return [1, 2, 5, 10].map((k) => k * power).find((x) => x >= wish * 0.999)!
}

/** Points of paths and hubs of wheels, in the world at the play head, with what they are called. */
function marks(but: string): { at: Vector3; name: string }[] {
  const { answer, shot } = useBench.getState()
  const out: { at: Vector3; name: string }[] = []
  answer?.readout.paths.forEach((p, i) => {
    if (p.id === but) return
    const pose = poseMatrix(shot.paths[i])
    const name = answer.doc.paths[i]?.name ?? ''
    const add = (at: Vector3, what: string) => out.push({ at: at.applyMatrix4(pose), name: `${what} of ${name}` })
    p.points?.forEach((q, k) => add(new Vector3(...q.at), `point ${k + 1}`))
    const line = shot.lines[i] ?? answer.paths[i]
    if (!p.closed && line) {
      add(new Vector3().fromArray(line.points), 'start')
      add(new Vector3().fromArray(line.points, line.points.length - 3), 'end')
    }
    const wheels = shot.wheels[i]
    answer.doc.paths[i]?.shape.wrap?.wheels.forEach((w, k) => {
      if (wheels && wheels.length >= (k + 1) * wheelStride)
        out.push({ at: new Vector3().fromArray(wheels, k * wheelStride).applyMatrix4(pose), name: w.name })
    })
  })
  return out
}

/**
 * Snaps a place in a plane: to a point or hub that shows near it (moved into the plane), to the profile of the
 * ground, or, each coordinate by itself, to the lines of the grid. Also says in words what it went to.
 */
export function snapped(
  hit: Vector3,
  axes: readonly [Axis, Axis],
  camera: Camera,
  element: Element,
  but: string,
): { at: Vector3; to: string } {
  const box = element.getBoundingClientRect()
  const onScreen = (p: Vector3) => {
    const v = p.clone().project(camera)
    return [((v.x + 1) / 2) * box.width, ((1 - v.y) / 2) * box.height] as const
  }
  const [x, y] = onScreen(hit)
  const inPlane = (p: Vector3) => {
    const at = hit.clone()
    for (const a of axes) at[a] = p[a]
    return at
  }
  let best: { at: Vector3; name: string } | null = null
  let least = near
  for (const m of marks(but)) {
    const [mx, my] = onScreen(inPlane(m.at))
    const d = Math.hypot(mx - x, my - y)
    if (d < least) [best, least] = [m, d]
  }
  if (best) return { at: inPlane(best.at), to: best.name }
  const pixel = metresPerPixel(camera, hit, box.height)
  const step = gridStep(pixel)
  const at = hit.clone()
  const on: string[] = []
  for (const a of axes) {
    const line = Math.round(hit[a] / step) * step
    if (Math.abs(line - hit[a]) > near * pixel) continue
    at[a] = Number(line.toPrecision(12))
    on.push(a === 'y' && Math.abs(line) < step / 2 ? 'height 0' : a)
  }
  // The profile of the ground goes before the lines of the grid.
  const ground = axes.includes('y') ? groundAt(useBench.getState().answer?.readout.ground, at.z) : undefined
  if (ground !== undefined && Math.abs(ground - hit.y) <= near * pixel) {
    at.y = Number(ground.toPrecision(9))
    return { at, to: on.some((a) => a !== 'y' && a !== 'height 0') ? 'the ground and the grid' : 'the ground' }
  }
  return {
    at,
    to: on.length === 2 ? 'the grid' : on.length ? `the grid in ${on[0]}`.replace('in height', 'at height') : '',
  }
}
