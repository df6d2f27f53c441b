import { Vector3 } from 'three'
import type { Eye } from '../core/camera'
import { eye } from './nudge'

/** How the view looks at the scene now; null before it does. */
export function presentEye(): Eye | null {
  const { camera, target } = eye
  if (!camera) return null
  return {
    at: camera.position.toArray(),
    ahead: camera.getWorldDirection(new Vector3()).toArray(),
    up: new Vector3(0, 1, 0).applyQuaternion(camera.quaternion).toArray(),
    target: target.toArray(),
  }
}
