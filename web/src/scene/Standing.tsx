import { useMemo } from 'react'
import { Box3, Vector3 } from 'three'
import type { Document, Stand } from '../core/page.generated'
import { resizePart } from '../core/resize'
import { useBench } from '../stores/bench'
import { chosenPath } from '../stores/chosen'
import { useView } from '../stores/prefs'
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
  const whole = useBench((b) => b.selected?.kind === 'rig')
  const fixture = useBench((b) =>
    b.selected?.kind === 'fixture' ? (b.answer?.doc.fixtures?.findIndex((f) => f.id === b.selected!.id) ?? -1) : -1,
  )
  const drawing = useBench((b) => b.tool.kind !== 'none')
  if (drawing) return null
  return (
    <>
      {path >= 0 && (
        <Posed key={`path ${path}`} space="paths" index={path}>
          <PathHoop index={path} whole={whole} roles={roles} size={size} />
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

/** A path and those that are joined to it, which go along. */
function joinedTo(d: Document, id: string, known: string[] = []): string[] {
  if (known.includes(id)) return known
  const steps = d.paths.find((p) => p.id === id)?.steps ?? []
  return steps.flatMap((s) => s.join?.paths ?? []).reduce((all, next) => joinedTo(d, next, all), [...known, id])
}

/** whole: with the rigs on it. */
function PathHoop({ index, whole, roles, size }: { index: number; whole: boolean; roles: Roles; size: number }) {
  const path = useBench((b) => b.doc?.paths[index])
  const answer = useBench((b) => b.answer)
  // The middle of its drawing at its foot, and the place from which it grows, in the path's own space.
  const drawn = useMemo(() => {
    const line = answer && lineAt(index)
    if (!line) return null
    const box = new Box3().setFromArray(line.points)
    const about = box.getCenter(new Vector3())
    const points = Array.from({ length: line.points.length / 3 }, (_, i) =>
      new Vector3().fromArray(line.points, 3 * i).sub(about),
    )
    return { centre: about.clone().setY(box.min.y), ghost: { about, points } }
  }, [answer, index])
  if (!path || !drawn) return null
  const { centre, ghost } = drawn
  return (
    <Hoop
      kind="path"
      id={path.id}
      name={path.name}
      centre={centre}
      radius={size * 0.06}
      chosen
      sized={whole ? `${path.name} with its rigs` : path.name}
      ghost={ghost}
      onSize={(times) => {
        const { doc, shot, answer } = useBench.getState()
        const about = ghost.about.clone().applyMatrix4(poseMatrix(shot.paths[index]))
        useView.setState({
          growing:
            times === 1 ? null : { paths: joinedTo(doc!, path.id), rigs: whole, about: about.toArray(), times, answer },
        })
      }}
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
          resize: { keep: (times) => makeLarger(was, times, whole) },
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
