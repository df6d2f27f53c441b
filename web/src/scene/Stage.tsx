import { useMemo } from 'react'
import { Vector3, type Box3 } from 'three'
import type { Roles } from '../look/theme'
import { useBench } from '../stores/bench'
import { Bodies } from './Bodies'
import { Fixtures } from './Fixtures'
import { Growing } from './Growing'
import { Ground } from './Ground'
import { Lights } from './Lights'
import { Pieces } from './Pieces'
import { Wheels } from './Wheels'

/** What a scene shows of itself, in the view and in films: light, ground, rigs, fixtures, wheels. */
export function Stage({
  roles,
  bounds,
  dark,
  fine,
  bare,
}: {
  roles: Roles
  bounds: Box3
  dark: boolean
  /** Shadows and surroundings are drawn. */
  fine: boolean
  /** The ground is left out. */
  bare?: boolean
}) {
  const rigs = useBench((b) => b.answer?.readout.rigs.length ?? 0)
  const size = sizeOf(bounds)
  const centre = useMemo<[number, number]>(() => {
    const c = bounds.getCenter(new Vector3())
    return [c.x, c.z]
  }, [bounds])
  return (
    <>
      <Lights roles={roles} bounds={bounds} dark={dark} fine={fine} />
      {!bare && <Ground roles={roles} centre={centre} reach={Math.max(size * 0.62, 1)} dark={dark} />}
      {Array.from({ length: rigs }, (_, i) => (
        <Drawn key={i} rig={i} roles={roles} size={size} />
      ))}
      <Fixtures roles={roles} />
      <Wheels roles={roles} />
    </>
  )
}

/** About how large a scene is, metres. */
export const sizeOf = (bounds: Box3) => Math.max(bounds.getSize(new Vector3()).length(), 0.5)

/** A rig's pieces: rigid ones, ones that bend, or rigid ones with surfaces that their kind makes. */
function Drawn(props: { rig: number; roles: Roles; size: number }) {
  const path = useBench((b) => b.answer?.doc.rigs[props.rig]?.path)
  return (
    <Growing path={path} rig>
      <OfKind {...props} />
    </Growing>
  )
}

function OfKind({ rig, roles, size }: { rig: number; roles: Roles; size: number }) {
  const bends = useBench((b) => !!b.answer?.readout.rigs[rig]?.body)
  const moulds = useBench((b) => (b.answer?.readout.moulds[rig]?.length ?? 0) > 0)
  if (moulds) {
    return (
      <>
        <Pieces rig={rig} roles={roles} size={size} />
        <Bodies rig={rig} roles={roles} />
      </>
    )
  }
  return bends ? <Bodies rig={rig} roles={roles} /> : <Pieces rig={rig} roles={roles} size={size} />
}
