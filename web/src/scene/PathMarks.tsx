import { drawnPath } from '../core/value'
import { Html } from '@react-three/drei'
import { useFrame, useThree, type ThreeEvent } from '@react-three/fiber'
import { useCallback, useEffect, useLayoutEffect, useMemo, useRef, useState } from 'react'
import { BufferGeometry, DoubleSide, Quaternion, Vector3, type Camera, type Group, type Object3D } from 'three'
import type { Path } from '../core/page.generated'
import { labelPlace } from '../core/labels'
import { movedStart } from '../core/start'
import { leadOf } from '../core/rigs'
import type { PathLine } from '../core/wire'
import { showWithUnit } from '../core/units'
import { useBench } from '../stores/bench'
import { chosenPath, chosenRig } from '../stores/chosen'
import { useView } from '../stores/prefs'
import type { Roles } from '../look/theme'
import { buttonsReach, labelLayer } from './labelLayer'
import { distanceAt, follow } from './pointing'
import { Posed, worldLine } from './Posed'
import { SteadySize } from './SteadySize'
import { mono } from '../look/theme'
import { metresPerPixel } from './lens'
import { rightClick } from './rightClick'
import { Line } from './Line'

/** Position and direction on a drawn path at a distance, for marks only. */
export function onLine(line: PathLine, distance: number): { at: Vector3; along: Vector3 } {
  const n = line.distances.length
  let lo = 0
  let hi = n - 1
  while (hi - lo > 1) {
    const mid = (lo + hi) >> 1
    if (line.distances[mid]! <= distance) lo = mid
    else hi = mid
  }
  const a = new Vector3().fromArray(line.points, 3 * lo)
  const b = new Vector3().fromArray(line.points, 3 * hi)
  const span = line.distances[hi]! - line.distances[lo]!
  const t = span > 0 ? (distance - line.distances[lo]!) / span : 0
  return { at: a.clone().lerp(b, t), along: b.sub(a).normalize() }
}

const up = new Vector3(0, 1, 0)

const projected = new Vector3()

/** Where a thing is in a view of a size, in pixels from its upper left corner. */
function onScreen(o: Object3D, camera: Camera, { width, height }: { width: number; height: number }): [number, number] {
  projected.setFromMatrixPosition(o.matrixWorld).project(camera)
  return [((projected.x + 1) * width) / 2, ((1 - projected.y) * height) / 2]
}

export function Tag({
  at,
  colour,
  children,
  roles,
  shift,
}: {
  at: Vector3
  colour: string
  children: React.ReactNode
  roles: Roles
  shift?: string
}) {
  // A label that comes after the last frame was drawn would wait for the next.
  const invalidate = useThree((s) => s.invalidate)
  useEffect(() => invalidate(), [at, invalidate])
  // How far left, right and up it reaches from its place, in pixels.
  const reach = useRef({ left: 0, right: 0, top: 0 })
  const measured = useCallback(
    (text: HTMLDivElement | null) => {
      if (!text) return
      const observer = new ResizeObserver(() => {
        const [own, place] = [text, text.parentElement!].map((e) => e.getBoundingClientRect()) as [DOMRect, DOMRect]
        reach.current = { left: own.left - place.left, right: own.right - place.left, top: own.top - place.top }
        invalidate()
      })
      observer.observe(text)
      return () => observer.disconnect()
    },
    [invalidate],
  )
  return (
    <Html
      portal={labelLayer}
      position={at}
      zIndexRange={[5, 0]}
      style={{ pointerEvents: 'none' }}
      calculatePosition={(o, camera, size) => {
        return labelPlace(onScreen(o, camera, size), reach.current, size.width, buttonsReach)
      }}
    >
      <div
        ref={measured}
        style={{
          transform: shift ?? 'translate(-50%, -150%)',
          font: `500 11px/16px 'IBM Plex Sans', sans-serif`,
          color: colour,
          whiteSpace: 'nowrap',
          // A halo, so that it reads over pieces without a box round it.
          textShadow: [-1.5, 0, 1.5]
            .flatMap((x) => [-1.5, 0, 1.5].map((y) => `${x}px ${y}px 1.5px ${roles.viewTop}`))
            .join(','),
        }}
      >
        {children}
      </div>
    </Html>
  )
}

/** All paths as threads; the chosen one with its direction, start mark and travel. */
export function PathMarks({ roles, size }: { roles: Roles; size: number }) {
  const answer = useBench((b) => b.answer)
  const chosen = useBench(chosenPathIndex)
  if (!answer) return null
  return (
    <>
      {answer.doc.paths.map((p, i) => (
        <Posed key={p.id} space="paths" index={i}>
          <Thread chosen={i === chosen} roles={roles} size={size} index={i} />
        </Posed>
      ))}
    </>
  )
}

function chosenPathIndex(b: ReturnType<typeof useBench.getState>) {
  if (b.tool.kind === 'draw') return b.doc?.paths.findIndex((p) => p.id === drawnPath) ?? -1
  return chosenPath(b)?.index ?? -1
}

function Thread(props: { chosen: boolean; roles: Roles; size: number; index: number }) {
  const line = useBench((b) => b.shot.lines[props.index] ?? b.answer?.paths[props.index])
  return line ? <Drawn {...props} line={line} /> : null
}

function Drawn({
  line,
  chosen,
  roles,
  size,
  index,
}: {
  line: PathLine
  chosen: boolean
  roles: Roles
  size: number
  index: number
}) {
  const select = useBench((b) => b.select)
  const id = useBench((b) => b.answer?.doc.paths[index]?.id)
  const info = useBench((b) => b.answer?.readout.paths[index])
  // A body that is looked at hides the thread that runs through it.
  const inside = useBench((b) => !!chosenRig(b)?.rig.body)
  const arrows = useMemo(() => {
    const length = line.distances[line.distances.length - 1]!
    return Array.from({ length: 8 }, (_, i) => onLine(line, ((i + 0.5) / 8) * length))
  }, [line])
  return (
    <>
      <Line
        points={line.points}
        color={chosen ? roles.kelp : roles.slate}
        lineWidth={chosen ? 2 : 1.2}
        transparent
        opacity={chosen ? 1 : 0.55}
        depthTest={!chosen || inside}
        renderOrder={chosen && !inside ? 3 : 0}
        onContextMenu={rightClick('path', id)}
        onClick={(e) => {
          if (chosen || !id || e.delta > 3 || useBench.getState().tool.kind !== 'none') return
          e.stopPropagation()
          select({ kind: 'path', id })
        }}
      />
      {chosen &&
        arrows.map((a, i) => (
          <SteadySize key={i} position={a.at} quaternion={new Quaternion().setFromUnitVectors(up, a.along)}>
            <mesh renderOrder={4}>
              <coneGeometry args={[4.6, 13, 12]} />
              <meshBasicMaterial color={roles.kelp} depthTest={false} transparent />
            </mesh>
          </SteadySize>
        ))}
      {chosen && info?.before && <Before points={info.before} roles={roles} />}
      {chosen &&
        info?.crossings?.map((c) => (
          <Tag key={c.a} at={new Vector3(...c.at)} colour={roles.amberText} roles={roles} shift="translate(-50%, 40%)">
            crosses itself
          </Tag>
        ))}
      {chosen && info && <StartAndTravel line={line} roles={roles} size={size} length={info.length} />}
    </>
  )
}

/** The shape as it was before its steps. */
function Before({ points, roles }: { points: readonly number[]; roles: Roles }) {
  const list = useMemo(() => new Float32Array(points), [points])
  if (list.length < 6) return null
  return <Line points={list} color={roles.slate} lineWidth={1} dash={[0.03, 0.03]} transparent opacity={0.5} />
}

/** The start mark's pole, pixels. */
const pole = new Vector3(0, 60, 0)
const origin = new Vector3()
const lower = new Vector3(0, 48, 0)
const standing = [origin, pole]

/** The flag at distance 0 and the way from there to piece 1, in orange. */
function StartAndTravel({ line, roles, size, length }: { line: PathLine; roles: Roles; size: number; length: number }) {
  const units = useBench((b) => b.doc?.units) ?? 'mm'
  const rig = useBench((b) => chosenRig(b)?.index ?? -1)
  const pieces = useBench((b) => b.shown.find((p) => p.rig === rig))
  const called = useBench((b) => {
    const r = chosenRig(b)?.rig
    return !r || b.answer?.readout.rigs[rig]?.row ? 'piece 1' : r.body ? (r.body.anchor ?? 'tail') : r.name
  })
  const led = useBench((b) => {
    const r = chosenRig(b)?.rig
    return r && leadOf(r) ? r.name : ''
  })
  const index = useBench((b) => chosenPath(b)?.index ?? -1)
  const info = useBench((b) => b.answer?.readout.paths[index])
  const camera = useThree((s) => s.camera)
  const element = useThree((s) => s.gl.domElement)
  const start = useMemo(() => onLine(line, 0), [line])
  /** The start mark of a loop is pulled along it. */
  function pullStart(e: ThreeEvent<PointerEvent>) {
    const bench = useBench.getState()
    const base = bench.doc?.paths[index]
    if (e.button !== 0 || !base || bench.tool.kind !== 'none') return
    e.stopPropagation()
    useView.getState().setPulling(true)
    let last = 0
    let moved = false
    const lying = worldLine(index)!
    follow(
      (ev) => {
        // The line as it lay when it was taken hold of: the path itself does not move.
        last = distanceAt(camera, element, lying, ev.clientX, ev.clientY, last, length, true)
        moved = true
        bench.preview((d) => {
          const fresh = JSON.parse(JSON.stringify(base)) as Path
          movedStart(fresh, last, length)
          d.paths[index] = fresh
        })
      },
      (kept) => {
        useView.getState().setPulling(false)
        if (!moved) return
        if (kept) useBench.getState().commit(`move the start of ${base.name}`)
        else useBench.getState().cancel()
      },
    )
  }
  const flag = useMemo(() => new BufferGeometry().setFromPoints([pole, pole, lower]), [])
  useEffect(() => () => flag.dispose(), [flag])
  useLayoutEffect(() => {
    // It flies the way the path runs, as far as that is level. In pixels, from the start.
    const tip = start.along.clone().setY(0)
    if (tip.length() < 0.3) tip.set(0, 0, 1)
    tip.normalize().multiplyScalar(21).add(pole)
    const corners = flag.getAttribute('position')
    corners.setXYZ(1, tip.x, tip.y - 6, tip.z)
    corners.needsUpdate = true
  }, [flag, start])
  // Metres that a pixel covers at the start, and how high above the path the travel is drawn: less when seen
  // from near.
  const [pixel, setPixel] = useState(size * 0.002)
  const rise = Math.min(size * 0.075, 40 * pixel)
  const top = useMemo(() => start.at.clone().addScaledVector(pole, pixel), [start, pixel])
  const first = pieces?.distances[0]
  const way = useMemo(() => {
    if (first === undefined || pieces === undefined) return null
    const to = Math.min(Math.max(first, 0), length)
    if (to < length * 1e-4) return null
    const offset = new Vector3(0, rise, 0)
    const pts: Vector3[] = []
    for (let i = 0; i <= 64; i++) pts.push(onLine(line, (to * i) / 64).at.add(offset))
    return pts
  }, [first, pieces, line, length, rise])
  const amountText = showWithUnit(pieces?.travel ?? 0, 'distance', units)
  const amount = <span style={{ fontFamily: mono }}>{amountText}</span>
  const here = useRef<Group>(null)
  const [labels, setLabels] = useState<'apart' | 'one' | 'one, right'>('apart')
  useFrame((state) => {
    if (!here.current) return
    const now = metresPerPixel(state.camera, here.current.localToWorld(start.at.clone()), state.size.height)
    if (Math.abs(now - pixel) > 0.03 * pixel) setPixel(now)
    if (!way) return
    const on = (v: Vector3) => {
      const p = here.current!.localToWorld(v.clone()).project(state.camera)
      return { x: ((p.x + 1) / 2) * state.size.width, y: ((1 - p.y) / 2) * state.size.height }
    }
    const places = labelPlaces(on(top), on(way[32]!), on(way[64]!), called, amountText)
    if (places !== labels) setLabels(places)
  })
  const at = first === undefined ? null : onLine(line, Math.min(Math.max(first, 0), length)).at
  return (
    <group ref={here}>
      <SteadySize position={start.at}>
        <Line points={standing} color={roles.kelp} lineWidth={1.5} depthTest={false} renderOrder={5} />
        <mesh geometry={flag} frustumCulled={false} renderOrder={5}>
          <meshBasicMaterial color={roles.kelp} side={DoubleSide} depthTest={false} transparent />
        </mesh>
        <mesh
          renderOrder={6}
          onPointerDown={info?.closed ? pullStart : undefined}
          onPointerOver={() => info?.closed && (element.style.cursor = 'grab')}
          onPointerOut={() => (element.style.cursor = '')}
        >
          <sphereGeometry args={[info?.closed ? 6 : 4.5, 16, 12]} />
          <meshBasicMaterial color={roles.kelp} depthTest={false} transparent />
        </mesh>
      </SteadySize>
      <Tag at={top} colour={roles.kelpText} roles={roles} shift="translate(6px, -80%)">
        start 0 m
      </Tag>
      {led && at && (
        <Tag at={at} colour={roles.orangeText} roles={roles} shift="translate(-50%, -220%)">
          {led}, lead {amount}
        </Tag>
      )}
      {way && at && !led && (
        <>
          <Line points={way} color={roles.orange} lineWidth={1.6} depthTest={false} renderOrder={5} />
          <Line
            points={[way[way.length - 1]!, at]}
            color={roles.orange}
            lineWidth={1.6}
            depthTest={false}
            renderOrder={5}
          />
          {labels === 'apart' && (
            <Tag at={way[32]!} colour={roles.orangeText} roles={roles} shift="translate(-50%, -130%)">
              travel {amount}
            </Tag>
          )}
          <Tag
            at={way[way.length - 1]!}
            colour={roles.orangeText}
            roles={roles}
            shift={labels === 'one, right' ? 'translate(4px, -60%)' : 'translate(calc(-100% - 4px), -60%)'}
          >
            {called}
            {labels !== 'apart' && <>, travel {amount}</>}
          </Tag>
        </>
      )}
    </group>
  )
}

interface Pixel {
  x: number
  y: number
}

/**
 * Whether the labels of the travel and of its end keep clear of each other and of the label of the start. Where
 * there is no room the two become one, on the free side of the arrow.
 */
function labelPlaces(start: Pixel, middle: Pixel, end: Pixel, called: string, amount: string) {
  const box = (left: number, right: number, top: number) => ({ left, right, top })
  type Label = ReturnType<typeof box>
  const meet = (a: Label, b: Label) => a.left < b.right && b.left < a.right && Math.abs(a.top - b.top) < 15
  const wide = (text: string) => text.length * 6.4 + 6
  const flag = box(start.x + 6, start.x + 6 + wide('start 0 m'), start.y - 13)
  const half = wide('travel ' + amount) / 2
  const travel = box(middle.x - half, middle.x + half, middle.y - 21)
  const alone = box(end.x - 4 - wide(called), end.x - 4, end.y - 10)
  const both = box(alone.left - 2 * half, alone.right, alone.top)
  if (!meet(travel, flag) && !meet(travel, alone) && !meet(alone, flag)) return 'apart'
  return meet(both, flag) ? 'one, right' : 'one'
}

/** Rings the place where the shown check is worst. */
export function CheckMark({ roles }: { roles: Roles }) {
  const shown = useBench((b) => b.shownCheck)
  const rig = useBench((b) => chosenRig(b)?.rig.id)
  const result = useBench((b) => b.checks.find((c) => c.id === shown && c.rig === rig))
  const camera = useThree((s) => s.camera)
  if (!result?.where || result.state === 'inside') return null
  const at = new Vector3(...result.where.position)
  const colour = result.state === 'outside' ? roles.red : roles.amber
  return (
    <>
      <SteadySize position={at} quaternion={camera.quaternion}>
        <mesh renderOrder={8}>
          <torusGeometry args={[11, 1.3, 8, 40]} />
          <meshBasicMaterial color={colour} depthTest={false} transparent />
        </mesh>
      </SteadySize>
      <Tag
        at={at}
        colour={result.state === 'outside' ? roles.redText : roles.amberText}
        roles={roles}
        shift="translate(-50%, 130%)"
      >
        piece {result.where.piece}, {result.word}
      </Tag>
    </>
  )
}
