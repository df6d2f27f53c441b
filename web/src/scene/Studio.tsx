import { Canvas, useThree } from '@react-three/fiber'
import { useEffect, useLayoutEffect, useMemo } from 'react'
import { createPortal } from 'react-dom'
import { BufferAttribute, BufferGeometry, Line as Way, LineBasicMaterial, type Scene, type WebGLRenderer } from 'three'
import type { Roles } from '../look/theme'
import { useBench } from '../stores/bench'
import { useBounds } from './bounds'
import { worldLine } from './Posed'
import { Stage } from './Stage'

export interface Booth {
  gl: WebGLRenderer
  scene: Scene
}

/** A scene set up beside the page for a film, in the size of its pictures; it is told once it stands. */
export function Studio({
  width,
  height,
  roles,
  dark,
  ground,
  paths,
  ready,
}: {
  width: number
  height: number
  roles: Roles
  dark: boolean
  ground: boolean
  paths: boolean
  ready: (b: Booth) => void
}) {
  const bounds = useBounds()
  return createPortal(
    <div style={{ position: 'fixed', left: -20000, top: 0, width, height }} aria-hidden data-testid="studio">
      <Canvas
        frameloop="never"
        shadows="percentage"
        dpr={1}
        gl={{ antialias: false, alpha: true, preserveDrawingBuffer: true }}
      >
        <Stage roles={roles} bounds={bounds} dark={dark} fine bare={!ground} />
        {paths && <Ways roles={roles} />}
        <Tell ready={ready} width={width} height={height} />
      </Canvas>
    </div>,
    document.body,
  )
}

function Tell({ ready, width, height }: { ready: (b: Booth) => void; width: number; height: number }) {
  const gl = useThree((s) => s.gl)
  const scene = useThree((s) => s.scene)
  const size = useThree((s) => s.size)
  const stands = size.width === width && size.height === height
  useEffect(() => {
    // What was put up in this turn is there, images come a little later.
    if (stands) requestAnimationFrame(() => ready({ gl, scene }))
    // It is told once.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [stands])
  return null
}

/** The paths, as lines that move with what is shown at once. */
function Ways({ roles }: { roles: Roles }) {
  const count = useBench((b) => b.answer?.paths.length ?? 0)
  const lines = useMemo(
    () =>
      Array.from({ length: count }, () => {
        const line = new Way(new BufferGeometry(), new LineBasicMaterial({ color: roles.kelp }))
        line.frustumCulled = false
        return line
      }),
    [count, roles],
  )
  useLayoutEffect(() => {
    const put = () =>
      lines.forEach((l, i) => {
        const points = worldLine(i)?.points
        if (points) l.geometry.setAttribute('position', new BufferAttribute(points, 3))
      })
    put()
    const stop = useBench.subscribe((now, before) => now.shot !== before.shot && put())
    return () => {
      stop()
      for (const l of lines) {
        l.geometry.dispose()
        l.material.dispose()
      }
    }
  }, [lines])
  return (
    <>
      {lines.map((l, i) => (
        <primitive key={i} object={l} />
      ))}
    </>
  )
}
