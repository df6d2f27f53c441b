import { useEffect, useMemo } from 'react'
import {
  BufferGeometry,
  Color,
  DoubleSide,
  Float32BufferAttribute,
  PlaneGeometry,
  ShaderMaterial,
  type MeshStandardMaterial,
} from 'three'
import { useBench } from '../stores/bench'
import { useView } from '../stores/prefs'
import type { Material } from '../core/page.generated'
import type { Roles } from '../look/theme'
import { useMaterials } from '../stores/materials'
import { useFinishes } from './finish'
import { Line } from './Line'

// The ground is a chart: a graticule every metre, stronger every five, soundings
// as faint rings about the scene, all fading out with the distance.
const vertexShader = /* glsl */ `
  varying vec2 at;
  varying float steep;
  void main() {
    vec4 world = modelMatrix * vec4(position, 1.0);
    at = world.xz;
    steep = normal.z;
    gl_Position = projectionMatrix * viewMatrix * world;
  }`

const fragmentShader = /* glsl */ `
  varying vec2 at;
  varying float steep;
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
    // Slopes are shaded as on a chart: the side away from the light darker.
    a += clamp(0.10 - 0.55 * steep, 0.0, 0.4) * step(0.001, abs(steep));
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
  const profile = useBench((b) => b.answer?.readout.ground)
  const kind = useBench((b) => b.answer?.readout.groundMaterial ?? -1)
  const made = useMaterials()?.[kind]
  const half = reach * 3
  const geometry = useMemo(() => surface(profile, centre, half), [profile, centre, half])
  // Seen from its edge the ground is a line.
  const edge = useView((v) => (v.flat && (v.view === 'side' || (v.view === 'ahead' && !profile?.length)) ? v.view : ''))
  const line = useMemo<[number, number, number][]>(() => {
    const { z, y } = heights(profile, centre[1], half)
    return edge === 'side'
      ? z.map((v, i) => [centre[0], y[i]!, v])
      : [-half, half].map((x) => [centre[0] + x, 0, centre[1]])
  }, [profile, centre, half, edge])
  useEffect(() => () => geometry.dispose(), [geometry])
  return (
    <>
      {edge && <Line points={line} color={roles.chart} lineWidth={1.2} renderOrder={-1} raycast={() => null} />}
      <mesh position={[0, -0.002, 0]} geometry={geometry} material={material} renderOrder={-2} />
      {made && <Earth made={made} geometry={geometry} roles={roles} centre={centre} reach={reach} />}
      <mesh position={[0, -0.001, 0]} geometry={geometry} receiveShadow renderOrder={-1} visible={!made}>
        <shadowMaterial transparent opacity={dark ? 0.45 : 0.16} depthWrite={false} />
      </mesh>
    </>
  )
}

/** The ground as its material has it, images laid on it from above; it fades out with the distance. */
function Earth({
  made,
  geometry,
  roles,
  centre,
  reach,
}: {
  made: Material
  geometry: BufferGeometry
  roles: Roles
  centre: [number, number]
  reach: number
}) {
  const finish = useFinishes([{ made }], roles, true, earthen) as MeshStandardMaterial
  useEffect(() => {
    finish.onBeforeCompile = (shader) => {
      shader.uniforms.middle = { value: centre }
      shader.uniforms.reach = { value: reach }
      shader.vertexShader = shader.vertexShader
        .replace('#include <common>', '#include <common>\nvarying vec2 across;')
        .replace('#include <begin_vertex>', '#include <begin_vertex>\nacross = position.xz;')
      shader.fragmentShader = shader.fragmentShader
        .replace(
          '#include <common>',
          '#include <common>\nvarying vec2 across;\nuniform vec2 middle;\nuniform float reach;',
        )
        .replace(
          '#include <map_fragment>',
          '#include <map_fragment>\ndiffuseColor.a *= 1.0 - smoothstep(reach * 0.9, reach * 2.4, length(across - middle));',
        )
    }
    // three keeps programs under this key.
    finish.customProgramCacheKey = () => `earth ${centre.join()} ${reach}`
    finish.needsUpdate = true
  }, [finish, centre, reach])
  const laid = useMemo(() => {
    const g = geometry.clone()
    const p = g.getAttribute('position')
    const uv = new Float32Array(2 * p.count)
    for (let i = 0; i < p.count; i++) uv.set([p.getX(i), p.getZ(i)], 2 * i)
    return g.setAttribute('uv', new Float32BufferAttribute(uv, 2))
  }, [geometry])
  useEffect(() => () => laid.dispose(), [laid])
  return (
    <mesh
      position={[0, -0.003, 0]}
      geometry={laid}
      material={finish}
      receiveShadow
      renderOrder={-3}
      raycast={() => null}
    />
  )
}

const earthen = { side: DoubleSide, transparent: true }

/** The heights of the ground along z, so far to either side of a place. */
function heights(profile: number[] | undefined, middle: number, half: number): { z: number[]; y: number[] } {
  const z: number[] = [middle - half]
  const y: number[] = [profile?.[1] ?? 0]
  for (let i = 0; i < (profile?.length ?? 0); i += 2) {
    if (profile![i]! > z.at(-1)! && profile![i]! < middle + half) {
      z.push(profile![i]!)
      y.push(profile![i + 1]!)
    }
  }
  z.push(middle + half)
  y.push(profile?.at(-1) ?? 0)
  return { z, y }
}

/** The ground about a place: level, or its profile drawn out to either side. */
function surface(profile: number[] | undefined, centre: [number, number], half: number): BufferGeometry {
  if (!profile?.length) {
    const plane = new PlaneGeometry(2 * half, 2 * half)
    plane.rotateX(-Math.PI / 2)
    plane.translate(centre[0], 0, centre[1])
    return plane
  }
  const { z, y } = heights(profile, centre[1], half)
  const at: number[] = []
  const normals: number[] = []
  const faces: number[] = []
  z.forEach((v, i) => {
    const a = Math.max(i - 1, 0)
    const b = Math.min(i + 1, z.length - 1)
    const slope = (y[b]! - y[a]!) / Math.max(z[b]! - z[a]!, 1e-9)
    const n = 1 / Math.hypot(1, slope)
    for (const side of [-1, 1]) {
      at.push(centre[0] + side * half, y[i]!, v)
      normals.push(0, n, -slope * n)
    }
    if (i > 0) faces.push(2 * i - 2, 2 * i, 2 * i - 1, 2 * i - 1, 2 * i, 2 * i + 1)
  })
  const g = new BufferGeometry()
  g.setAttribute('position', new Float32BufferAttribute(at, 3))
  g.setAttribute('normal', new Float32BufferAttribute(normals, 3))
  g.setIndex(faces)
  return g
}
