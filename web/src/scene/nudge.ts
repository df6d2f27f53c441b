import { Vector3, type Camera } from 'three'
import { handlesOf, putPoint } from '../core/forms'
import { useBench } from '../stores/bench'
import { chosenPath } from '../stores/chosen'
import { gridStep } from './snap'
import { metresPerPixel } from './lens'
import { poseMatrix } from './Posed'

/** The view's camera, the place in its middle and its height in pixels, told by the view. */
export const eye: { camera: Camera | null; target: Vector3; height: number } = {
  camera: null,
  target: new Vector3(),
  height: 1,
}

let waiting = 0

/** Moves the chosen point or wheel along the axes of the world that lie nearest to the picture's. */
export function nudge(key: string, far: boolean) {
  const bench = useBench.getState()
  const chosen = chosenPath(bench)
  const i = bench.point
  const at = chosen && i !== null ? handlesOf(chosen.path.shape)?.[i] : undefined
  const { camera } = eye
  if (!at || !camera || i === null) return
  const pose = poseMatrix(bench.shot.paths[chosen!.index])
  const world = new Vector3(...at).applyMatrix4(pose)
  const right = new Vector3(1, 0, 0).transformDirection(camera.matrixWorld)
  const up = new Vector3(0, 1, 0).transformDirection(camera.matrixWorld)
  const axis = (v: Vector3, but = -1) => {
    const size = v.toArray().map((x, k) => (k === but ? -1 : Math.abs(x)))
    return size.indexOf(Math.max(...size))
  }
  const across = axis(right)
  const sideways = key === 'ArrowLeft' || key === 'ArrowRight'
  const k = sideways ? across : axis(up, across)
  const sign =
    Math.sign((sideways ? right : up).getComponent(k)) * (key === 'ArrowLeft' || key === 'ArrowDown' ? -1 : 1)
  const step = gridStep(metresPerPixel(camera, world, eye.height), 2) * (far ? 10 : 1)
  world.setComponent(k, Number((world.getComponent(k) + sign * step).toPrecision(12)))
  const to = world
    .applyMatrix4(pose.clone().invert())
    .toArray()
    .map((x) => Number(x.toPrecision(12)))
  bench.preview((d) => putPoint(d.paths[chosen!.index]!.shape, i, to as [number, number, number]))
  // Presses in a row are one step of the history.
  window.clearTimeout(waiting)
  waiting = window.setTimeout(() => useBench.getState().commit(`move point ${i + 1}`), 500)
}
