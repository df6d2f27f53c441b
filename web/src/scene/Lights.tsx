import { useThree } from '@react-three/fiber'
import { useEffect, useRef } from 'react'
import {
  BackSide,
  Color,
  Mesh,
  PMREMGenerator,
  Scene,
  ShaderMaterial,
  SphereGeometry,
  Vector3,
  type Box3,
  type DirectionalLight,
} from 'three'
import { firstSun } from '../core/light'
import { useBench } from '../stores/bench'
import type { Roles } from '../look/theme'

/** The direction in which the sun stands. */
function towards({ heading, height }: typeof firstSun): Vector3 {
  const [h, v] = [(heading * Math.PI) / 180, (height * Math.PI) / 180]
  return new Vector3(Math.sin(h) * Math.cos(v), Math.sin(v), Math.cos(h) * Math.cos(v))
}

/** One sun, light from sky and sand, and, where the picture is fine, soft surroundings for what shines. */
export function Lights({ roles, bounds, dark, fine }: { roles: Roles; bounds: Box3; dark: boolean; fine: boolean }) {
  const light = useRef<DirectionalLight>(null)
  const sun = useBench((b) => b.doc?.light) ?? firstSun
  const c = bounds.getCenter(new Vector3())
  const r = Math.max(bounds.getSize(new Vector3()).length() * 0.6, 1)
  const at = towards(sun)
    .multiplyScalar(r * 2.7)
    .add(c)
  useEffect(() => {
    if (light.current) aim(light.current, c, r)
  })
  return (
    <>
      {fine && <Surroundings roles={roles} dark={dark} />}
      {fine && <Overcast bounds={bounds} dark={dark} />}
      <hemisphereLight
        args={[
          dark ? '#cfe0e6' : '#ffffff',
          dark ? '#26343b' : roles.sunken,
          fine ? (dark ? 0.9 : 1.0) : dark ? 1.1 : 1.25,
        ]}
      />
      <directionalLight
        ref={light}
        castShadow
        position={at}
        intensity={(dark ? 2.2 : 2.6) * sun.strength}
        shadow-mapSize={[1024, 1024]}
        shadow-bias={-0.0006}
        shadow-normalBias={0.012}
      />
      <directionalLight position={[c.x - r * 2, c.y + r * 0.6, c.z - r * 1.5]} intensity={dark ? 0.35 : 0.4} />
    </>
  )
}

/** Light from straight above that throws a soft shadow right below things: where they touch the ground it is darkest. */
function Overcast({ bounds, dark }: { bounds: Box3; dark: boolean }) {
  const light = useRef<DirectionalLight>(null)
  const c = bounds.getCenter(new Vector3())
  const r = Math.max(bounds.getSize(new Vector3()).length() * 0.6, 1)
  useEffect(() => {
    if (light.current) aim(light.current, c, r)
  })
  return (
    <directionalLight
      ref={light}
      castShadow
      position={[c.x, c.y + r * 2.7, c.z]}
      intensity={dark ? 0.6 : 0.5}
      shadow-mapSize={[512, 512]}
      shadow-radius={6}
      shadow-bias={-0.0006}
      shadow-normalBias={0.03}
    />
  )
}

/** Lets a light that throws shadows take in all that lies so far around a place. */
function aim(l: DirectionalLight, c: Vector3, r: number) {
  l.target.position.copy(c)
  l.target.updateMatrixWorld()
  const cam = l.shadow.camera
  cam.left = cam.bottom = -r
  cam.right = cam.top = r
  cam.near = 0.1
  cam.far = r * 6
  cam.updateProjectionMatrix()
}

/** A sky over sand, made in code, that metal and what is smooth throw back. */
function Surroundings({ roles, dark }: { roles: Roles; dark: boolean }) {
  const gl = useThree((s) => s.gl)
  const scene = useThree((s) => s.scene)
  const invalidate = useThree((s) => s.invalidate)
  useEffect(() => {
    const material = new ShaderMaterial({
      side: BackSide,
      uniforms: {
        sky: { value: new Color(dark ? '#33505e' : '#dfe9ec') },
        rim: { value: new Color(dark ? '#5b7480' : '#ffffff') },
        sand: { value: new Color(dark ? '#1b262c' : roles.sunken) },
      },
      vertexShader: `varying vec3 way; void main() { way = position; gl_Position = projectionMatrix * modelViewMatrix * vec4(position, 1.0); }`,
      fragmentShader: `varying vec3 way; uniform vec3 sky; uniform vec3 rim; uniform vec3 sand;
        void main() { float h = normalize(way).y;
          gl_FragColor = vec4(h > 0.0 ? mix(rim, sky, sqrt(h)) : mix(rim * 0.7 + sand * 0.3, sand, min(-h * 4.0, 1.0)), 1.0); }`,
    })
    const dome = new Mesh(new SphereGeometry(10, 24, 16), material)
    const from = new Scene()
    from.add(dome)
    const made = new PMREMGenerator(gl)
    const target = made.fromScene(from, 0.02)
    scene.environment = target.texture
    scene.environmentIntensity = dark ? 0.5 : 0.22
    invalidate()
    return () => {
      scene.environment = null
      target.dispose()
      made.dispose()
      dome.geometry.dispose()
      material.dispose()
    }
  }, [gl, scene, roles, dark, invalidate])
  return null
}
