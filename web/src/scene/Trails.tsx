import { useFrame, useThree } from '@react-three/fiber'
import { useEffect, useMemo, useRef } from 'react'
import { BufferAttribute, BufferGeometry, Color, Points, PointsMaterial, Vector3 } from 'three'
import { stride, type MeshData, type Shot } from '../core/wire'
import { useBench } from '../stores/bench'
import { chosenRig } from '../stores/chosen'
import { useClock } from '../stores/clock'
import { useView } from '../stores/prefs'
import type { Roles } from '../look/theme'

/** The vertex of a part that lies farthest along an axis, such as +z. */
function farthest(mesh: MeshData, axis: string): number {
  const k = 'xyz'.indexOf(axis[1] ?? 'z')
  const sign = axis.startsWith('-') ? -1 : 1
  let best = 0
  for (let v = 0; v < mesh.positions.length / 3; v++)
    if (sign * mesh.positions[3 * v + k]! > sign * mesh.positions[3 * best + k]!) best = v
  return best
}

/** Where what is chosen is in a frame: a piece of a row, the foremost point of a body, a carrier. */
function usePlace(): ((shot: Shot, to: Vector3) => boolean) | null {
  const rig = useBench((b) => chosenRig(b)?.index ?? -1)
  const carrier = useBench((b) =>
    b.selected?.kind === 'carrier' ? (b.answer?.doc.carriers?.findIndex((c) => c.id === b.selected!.id) ?? -1) : -1,
  )
  const piece = useView((v) => v.lastPiece)
  const answer = useBench((b) => b.answer)
  const meshes = useBench((b) => b.meshes)
  return useMemo(() => {
    if (carrier >= 0)
      return (shot, to) => {
        const p = shot.carriers[carrier]
        if (p) to.fromArray(p)
        return !!p
      }
    const info = answer?.readout.rigs[rig]
    if (!answer || !info) return null
    if (info.body) {
      const part = answer.doc.parts.findIndex((p) => p.id === answer.doc.rigs[rig]!.part)
      const mesh = meshes.get(answer.readout.meshes[part] ?? '')
      const head = mesh ? farthest(mesh, answer.doc.parts[part]!.forward ?? '+z') : 0
      return (shot, to) => {
        const p = shot.bodies[rig]?.positions
        if (p) to.fromArray(p, 3 * head)
        return !!p
      }
    }
    return (shot, to) => {
      const p = shot.pieces.find((p) => p.rig === rig)
      if (!p || p.distances.length === 0) return false
      to.fromArray(p.transforms, Math.min(piece, p.distances.length - 1) * stride)
      return true
    }
  }, [answer, rig, carrier, piece, meshes])
}

/** The way of what is chosen over the range: a dot a frame, those that have come; the present one larger. */
export function Trail({ roles }: { roles: Roles }) {
  const on = useView((v) => v.trail)
  return on ? <Dots roles={roles} /> : null
}

function Dots({ roles }: { roles: Roles }) {
  const first = useClock((c) => c.first)
  const last = useClock((c) => c.last)
  const place = usePlace()
  const invalidate = useThree((s) => s.invalidate)
  const pixels = useThree((s) => s.viewport.dpr)
  const count = Math.min(last - first + 1, 20000)
  const points = useMemo(() => {
    const g = new BufferGeometry()
    g.setAttribute('position', new BufferAttribute(new Float32Array(3 * count), 3))
    g.setAttribute('color', new BufferAttribute(new Float32Array(3 * count), 3))
    const m = new PointsMaterial({ size: 4 * pixels, sizeAttenuation: false, vertexColors: true, depthTest: false })
    m.transparent = true
    const p = new Points(g, m)
    p.frustumCulled = false
    p.renderOrder = 4
    p.raycast = () => undefined
    return p
  }, [count, pixels])
  useEffect(
    () => () => {
      points.geometry.dispose()
      points.material.dispose()
    },
    [points],
  )
  const seen = useRef('')
  const at = useMemo(() => new Vector3(), [])
  useFrame(() => {
    const { frames, answer } = useBench.getState()
    const head = useClock.getState().frame
    // Drawn anew only when a frame has come, or another is looked at.
    const key = `${frames.size} ${head}`
    if (!place || !answer || key === seen.current) return
    seen.current = key
    const where = points.geometry.getAttribute('position') as BufferAttribute
    const colours = points.geometry.getAttribute('color') as BufferAttribute
    const [before, after] = [new Color(roles.orange), new Color(roles.slate)]
    let n = 0
    for (let f = first; f <= last && n < count; f++) {
      const shot = frames.get(f)
      if (!shot || !place(shot, at)) continue
      where.setXYZ(n, at.x, at.y, at.z)
      const c = f <= head ? before : after
      colours.setXYZ(n++, c.r, c.g, c.b)
    }
    points.geometry.setDrawRange(0, n)
    where.needsUpdate = colours.needsUpdate = true
    invalidate()
  })
  useEffect(() => {
    seen.current = ''
    invalidate()
    return useBench.subscribe(() => invalidate())
  }, [place, points, roles, invalidate])
  return <primitive object={points} />
}
