import { useMemo } from 'react'
import { Color, ShaderMaterial } from 'three'
import type { Roles } from '../ui/theme'

// The ground is a chart: a graticule every metre, stronger every five, soundings
// as faint rings about the scene, all fading out with the distance.
const vertexShader = /* glsl */ `
  varying vec2 at;
  void main() {
    vec4 world = modelMatrix * vec4(position, 1.0);
    at = world.xz;
    gl_Position = projectionMatrix * viewMatrix * world;
  }`

const fragmentShader = /* glsl */ `
  varying vec2 at;
  uniform vec3 ink;
  uniform vec2 centre;
  uniform float reach;
  uniform float strength;
  float lines(vec2 p, float step) {
    vec2 g = abs(fract(p / step - 0.5) - 0.5) / max(fwidth(p / step), vec2(1e-6));
    return 1.0 - min(min(g.x, g.y), 1.0);
  }
  float rings(float d, float step) {
    float g = abs(fract(d / step - 0.5) - 0.5) / max(fwidth(d / step), 1e-6);
    return 1.0 - min(g, 1.0);
  }
  void main() {
    float d = length(at - centre);
    float fade = 1.0 - smoothstep(reach * 0.55, reach * 2.2, d);
    float wobble = d * (1.0 + 0.07 * sin(3.0 * atan(at.y - centre.y, at.x - centre.x) + 0.8));
    float a = 0.20 * lines(at, 1.0) + 0.30 * lines(at, 5.0) + 0.26 * rings(wobble, reach * 0.3);
    gl_FragColor = vec4(ink, a * fade * strength);
    #include <colorspace_fragment>
  }`

export function Ground({
  roles,
  centre,
  reach,
  dark,
}: {
  roles: Roles
  centre: [number, number]
  reach: number
  dark: boolean
}) {
  const material = useMemo(
    () =>
      new ShaderMaterial({
        vertexShader,
        fragmentShader,
        transparent: true,
        depthWrite: false,
        uniforms: {
          ink: { value: new Color(roles.chart) },
          centre: { value: centre },
          reach: { value: reach },
          strength: { value: dark ? 0.9 : 1 },
        },
      }),
    [roles, centre, reach, dark],
  )
  return (
    <>
      <mesh rotation-x={-Math.PI / 2} position={[centre[0], -0.002, centre[1]]} material={material} renderOrder={-2}>
        <planeGeometry args={[reach * 6, reach * 6]} />
      </mesh>
      <mesh rotation-x={-Math.PI / 2} position={[centre[0], -0.001, centre[1]]} receiveShadow renderOrder={-1}>
        <planeGeometry args={[reach * 6, reach * 6]} />
        <shadowMaterial transparent opacity={dark ? 0.45 : 0.16} depthWrite={false} />
      </mesh>
    </>
  )
}
