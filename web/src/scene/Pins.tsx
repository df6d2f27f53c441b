import { useMemo } from 'react'
import { weld } from '../core/weld'
import type { Roles } from '../look/theme'
import { useBench } from '../stores/bench'
import { SteadySize } from './SteadySize'

/** The mesh of the part of a cloth, with its points. */
export function clothOf(id: string) {
  const { answer, meshes } = useBench.getState()
  const rig = answer?.doc.rigs.findIndex((r) => r.id === id) ?? -1
  const part = answer?.doc.parts.findIndex((p) => p.id === answer.doc.rigs[rig]?.part) ?? -1
  const mesh = meshes.get(answer?.readout.meshes[part] ?? '')
  return mesh ? { rig, mesh, points: weld(mesh) } : null
}

/** Holds the point of a cloth that is nearest to a place, or lets it go. */
export function pickPin(id: string, corners: number[], at: [number, number, number]) {
  const { shot, doc, edit } = useBench.getState()
  const cloth = clothOf(id)
  const now = cloth && shot.bodies[cloth.rig]?.positions
  if (!cloth || !now) return
  const far = (v: number) => Math.hypot(...at.map((x, k) => x - now[3 * v + k]!))
  const nearest = corners.reduce((a, b) => (far(b) < far(a) ? b : a))
  const point = cloth.points.of[nearest % cloth.points.of.length]!
  const i = doc!.rigs.findIndex((r) => r.id === id)
  const held = doc!.rigs[i]!.drape?.points ?? []
  const rest = held.filter((p) => p !== point)
  if (rest.length === 0 && held.length > 0) {
    useBench.getState().say('One point at least holds the cloth.')
    return
  }
  edit(rest.length < held.length ? 'let a point of the cloth go' : 'hold a point of the cloth', (d) => {
    d.rigs[i]!.drape!.points = rest.length < held.length ? rest : [...held, point].sort((a, b) => a - b)
  })
}

/** The picked points by which the chosen cloth is held. */
export function Pins({ roles }: { roles: Roles }) {
  const chosen = useBench((b) => (b.selected?.kind === 'rig' ? b.selected.id : ''))
  const drape = useBench((b) => b.answer?.doc.rigs.find((r) => r.id === chosen)?.drape)
  const answer = useBench((b) => b.answer)
  const cloth = useMemo(() => (answer && drape?.hang === 'points' ? clothOf(chosen) : null), [answer, chosen, drape])
  const now = useBench((b) => (cloth ? b.shot.bodies[cloth.rig]?.positions : undefined))
  if (!cloth || !now) return null
  return (
    <>
      {(drape?.points ?? []).map((p) => {
        const v = cloth.points.first[p]
        return v === undefined || 3 * v + 2 >= now.length ? null : (
          <SteadySize key={p} position={[now[3 * v]!, now[3 * v + 1]!, now[3 * v + 2]!]}>
            <mesh renderOrder={6}>
              <sphereGeometry args={[4.2, 16, 12]} />
              <meshBasicMaterial color={roles.brass} depthTest={false} transparent />
            </mesh>
          </SteadySize>
        )
      })}
    </>
  )
}
