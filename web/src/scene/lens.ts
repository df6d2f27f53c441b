import type { Camera, OrthographicCamera, PerspectiveCamera, Vector3 } from 'three'

/** The angle of the view with perspective, from its lower to its upper edge, degrees. */
export const fov = 32

const half = Math.tan((fov * Math.PI) / 360)

const isFlat = (c: Camera): c is OrthographicCamera => (c as OrthographicCamera).isOrthographicCamera

/** Metres of the world that a pixel of the picture covers at a place. */
export function metresPerPixel(camera: Camera, at: Vector3, height: number): number {
  if (isFlat(camera)) return 1 / camera.zoom
  return (2 * Math.max(camera.position.distanceTo(at), 1e-6) * half) / height
}

/** How far off a camera stands; of one without perspective, the distance at which one with it sees as much. */
export function reachOf(camera: Camera, target: Vector3, height: number): number {
  return isFlat(camera) ? height / (2 * camera.zoom * half) : camera.position.distanceTo(target)
}

/**
 * Stands a camera so far off a target, along a direction. One without perspective looks through
 * all that lies within size of the target.
 */
export function stand(
  camera: OrthographicCamera | PerspectiveCamera,
  target: Vector3,
  direction: Vector3,
  reach: number,
  height: number,
  size: number,
) {
  camera.position.copy(target).addScaledVector(direction, reach)
  if (isFlat(camera)) {
    camera.zoom = height / (2 * reach * half)
    camera.near = reach - size
    camera.far = reach + size
    camera.updateProjectionMatrix()
  }
}
