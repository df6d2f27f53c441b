import { useThree } from '@react-three/fiber'
import { useEffect, useMemo } from 'react'
import type { BufferGeometry } from 'three'
import {
  Color,
  EdgesGeometry,
  InstancedBufferGeometry,
  InstancedInterleavedBuffer,
  InterleavedBufferAttribute,
  LineSegments,
  ShaderMaterial,
} from 'three'
import { stride } from '../core/wire'

// Outlines of instanced pieces: the edges of the part, placed on the graphics
// side from the same ten numbers a piece that the server sends.
const vertexShader = /* glsl */ `
  attribute vec3 at;
  attribute vec4 turn;
  attribute vec3 size;
  vec3 turned(vec4 q, vec3 v) { return v + 2.0 * cross(q.xyz, cross(q.xyz, v) + q.w * v); }
  void main() {
    vec4 eye = modelViewMatrix * vec4(at + turned(turn, position * size), 1.0);
    eye.xyz *= 0.9992; // a hair towards the eye, so that faces do not swallow them
    gl_Position = projectionMatrix * eye;
  }`
const fragmentShader = /* glsl */ `
  uniform vec3 ink;
  uniform float strength;
  void main() {
    gl_FragColor = vec4(ink, strength);
    #include <colorspace_fragment>
  }`

/** Edges sharper than this show, degrees. */
const crease = 28

export interface OutlinesHandle {
  /** Takes a frame's transforms. */
  place: (transforms: Float32Array, count: number) => void
  object: LineSegments
}

/** Makes the outlines of up to `count` pieces; null where there are too many to draw. */
export function useOutlines(
  geometry: BufferGeometry | null,
  count: number,
  colour: string,
  strength: number,
): OutlinesHandle | null {
  const invalidate = useThree((s) => s.invalidate)
  const handle = useMemo(() => {
    if (!geometry || count === 0 || count > 3000) return null
    const edges = new EdgesGeometry(geometry, crease)
    const g = new InstancedBufferGeometry()
    g.setAttribute('position', edges.getAttribute('position'))
    const buffer = new InstancedInterleavedBuffer(new Float32Array(count * stride), stride, 1)
    g.setAttribute('at', new InterleavedBufferAttribute(buffer, 3, 0))
    g.setAttribute('turn', new InterleavedBufferAttribute(buffer, 4, 3))
    g.setAttribute('size', new InterleavedBufferAttribute(buffer, 3, 7))
    g.instanceCount = 0
    const material = new ShaderMaterial({
      vertexShader,
      fragmentShader,
      transparent: true,
      uniforms: { ink: { value: new Color() }, strength: { value: 1 } },
    })
    const object = new LineSegments(g, material)
    object.frustumCulled = false
    object.raycast = () => undefined
    return {
      object,
      place(transforms: Float32Array, n: number) {
        buffer.array.set(transforms.subarray(0, n * stride))
        buffer.needsUpdate = true
        g.instanceCount = n
      },
    }
  }, [geometry, count])
  useEffect(() => {
    if (!handle) return
    const material = handle.object.material
    ;(material.uniforms.ink!.value as Color).set(colour)
    material.uniforms.strength!.value = strength
    invalidate()
  }, [handle, colour, strength, invalidate])
  useEffect(
    () => () => {
      handle?.object.geometry.dispose()
      handle?.object.material?.dispose()
    },
    [handle],
  )
  return handle
}
