import { useMemo } from 'react'
import { Vector3 } from 'three'
import type { Document, Stand } from '../core/page.generated'
import { resizePart } from '../core/resize'
import { useBench } from '../stores/bench'
import { chosenPath } from '../stores/chosen'
import { makeLarger } from '../stores/takeOver'
import type { Roles } from '../look/theme'
import { Hoop, type Grip } from './Hoop'
import { lineAt, Posed, poseMatrix } from './Posed'

type Vec3 = [number, number, number]

/**
 * The chosen path or fixture has a hoop, to be moved, turned and resized as a whole; so has the path of a
 * chosen rig whose step Path is open.
 */
export function Standing({ roles, size }: { roles: Roles; size: number }) {
  const path = useBench((b) => {
    const kind = b.selected?.kind
    const p =
      kind === 'path' || (kind === 'rig' && b.panel === 'recipe' && b.openStep === 'path') ? chosenPath(b) : undefined
    // A track lies where its rig goes, a path on a fixture where that stands.
    return p && !p.path.shape.track && !p.path.shape.over ? p.index : -1
  })
  const fixture = useBench((b) =>
    b.selected?.kind === 'fixture' ? (b.answer?.doc.fixtures?.findIndex((f) => f.id === b.selected!.id) ?? -1) : -1,
  )
  const drawing = useBench((b) => b.tool.kind !== 'none')
  if (drawing) return null
  return (
    <>
      {path >= 0 && (
        <Posed key={`path ${path}`} space="paths" index={path}>
          <PathHoop index={path} roles={roles} size={size} />
        </Posed>
      )}
      {fixture >= 0 && (
        <Posed key={`fixture ${fixture}`} space="fixtures" index={fixture}>
          <FixtureHoop index={fixture} roles={roles} size={size} />
        </Posed>
      )}
    </>
  )
}

/** What carries a thing, as a matrix to the world. */
function carrying(d: Document, carrier: string | undefined) {
  const i = d.carriers?.findIndex((c) => c.id === (carrier ?? d.master)) ?? -1
  return poseMatrix(i < 0 ? undefined : useBench.getState().shot.carriers[i])
}

/** Moves and turns what stands somewhere, about a place of its parent's space. */
function gripOf(
  was: Stand & { carrier?: string },
  about: Vector3,
  put: (d: Document, stand: { at: Vec3; heading: number }) => void,
): Grip {
  const parent = carrying(useBench.getState().base!, was.carrier)
  const at = new Vector3(...(was.at ?? [0, 0, 0]))
  const heading = was.heading ?? 0
  const up = new Vector3(0, 1, 0)
  return {
    at: about.clone().applyMatrix4(parent),
    parent,
    heading,
    put: (d, by, turned) => {
      const to = at
        .clone()
        .sub(about)
        .applyAxisAngle(up, (turned * Math.PI) / 180)
      const round = (x: number) => Math.round(x * 1e9) / 1e9 || 0
      put(d, { at: to.add(about).add(by).toArray().map(round) as Vec3, heading: round(heading + turned) })
    },
  }
}

function PathHoop({ index, roles, size }: { index: number; roles: Roles; size: number }) {
  const path = useBench((b) => b.doc?.paths[index])
  const answer = useBench((b) => b.answer)
  // The middle of its drawing, at its foot, in the path's own space.
  const centre = useMemo(() => {
    const line = answer && lineAt(index)
    if (!line) return null
    const low = [Infinity, Infinity, Infinity]
    const high = [-Infinity, -Infinity, -Infinity]
    line.points.forEach((x, i) => {
      low[i % 3] = Math.min(low[i % 3]!, x)
      high[i % 3] = Math.max(high[i % 3]!, x)
    })
    return new Vector3((low[0]! + high[0]!) / 2, low[1], (low[2]! + high[2]!) / 2)
  }, [answer, index])
  if (!path || !centre) return null
  return (
    <Hoop
      kind="path"
      id={path.id}
      name={path.name}
      centre={centre}
      radius={size * 0.06}
      chosen
      sized={path.name}
      roles={roles}
      grip={() => {
        const bench = useBench.getState()
        const was = bench.base!.paths[index]!
        const about = centre.clone().applyMatrix4(poseMatrix(bench.shot.paths[index]))
        about.applyMatrix4(carrying(bench.base!, was.carrier).invert())
        return {
          ...gripOf({ ...was.rest, carrier: was.carrier }, about, (d, stand) => {
            const p = d.paths[index]!
            p.rest = { ...p.rest, ...stand }
          }),
          resize: { keep: (times) => void makeLarger(was, times) },
        }
      }}
    />
  )
}

function FixtureHoop({ index, roles, size }: { index: number; roles: Roles; size: number }) {
  const fixture = useBench((b) => b.doc?.fixtures?.[index])
  const doc = useBench((b) => b.doc)
  if (!fixture || !doc) return null
  const users = [...doc.rigs, ...(doc.fixtures ?? [])].filter((x) => x.part === fixture.part).length
  const part = doc.parts.find((p) => p.id === fixture.part)?.name ?? ''
  return (
    <Hoop
      kind="fixture"
      id={fixture.id}
      name={fixture.name}
      radius={size * 0.06}
      chosen
      sized={users > 1 ? `All of part ${part}` : fixture.name}
      roles={roles}
      grip={() => {
        const was = useBench.getState().base!.fixtures![index]!
        const made = useBench.getState().base!.parts.find((p) => p.id === was.part)!
        return {
          ...gripOf(was, new Vector3(...was.at), (d, stand) => void Object.assign(d.fixtures![index]!, stand)),
          resize: {
            put: (d, times) => {
              const p = d.parts.find((p) => p.id === made.id)!
              Object.assign(p, structuredClone(made))
              resizePart(p, times)
            },
            keep: (times) => useBench.getState().commit(`make ${made.name} ${times} times as large`),
          },
        }
      }}
    />
  )
}
