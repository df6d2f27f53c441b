import { useThree } from '@react-three/fiber'
import { useEffect } from 'react'
import { followEdges, RequestError, type EdgeWay } from '../api/client'
import type { PathShape } from '../core/page.generated'
import { addPath } from '../core/value'
import { useBench } from '../stores/bench'
import type { Roles } from '../look/theme'
import { fixtureObject } from './Fixtures'
import { onClicks, onObject } from './pointing'
import { Line } from './Line'

type Vec3 = [number, number, number]

let asking = false

/** Asks for the chain through a place and shows it; one question at a time. */
export async function askChain(at: Vec3, way: EdgeWay, pin: boolean) {
  const { tool, doc } = useBench.getState()
  if (tool.kind !== 'edges' || (asking && !pin)) return
  const fixture = doc?.fixtures?.find((f) => f.id === tool.fixture)
  const part = doc?.parts.find((p) => p.id === fixture?.part)
  if (!fixture || !part) return
  asking = true
  try {
    const chain = await followEdges(part, fixture, at, way)
    const now = useBench.getState().tool
    // An answer to hovering does not replace a chain that was clicked.
    if (now.kind === 'edges' && (pin || !now.at)) {
      useBench.setState({ tool: { ...now, way, chain, at: pin ? at : null } })
    }
  } catch (e) {
    if (!(e instanceof RequestError)) throw e
    const now = useBench.getState().tool
    if (now.kind === 'edges') useBench.setState({ tool: { ...now, way, chain: null, at: pin ? at : now.at } })
    if (pin) useBench.getState().say(e.message)
  } finally {
    asking = false
  }
}

/** Keeps the chain as a path, rebuilt with fewer points where that is asked for. */
export function keepChain(rebuilt: boolean) {
  const { tool, edit, select, doc } = useBench.getState()
  if (tool.kind !== 'edges' || !tool.chain) return
  const { points, closed, length } = tool.chain
  const name = `${doc?.fixtures?.find((f) => f.id === tool.fixture)?.name ?? 'Mesh'} edge`
  useBench.setState({ tool: { kind: 'none' } })
  let id = ''
  edit('take a path from edges', (d) => {
    const shape: PathShape = { polyline: { points, ...(closed ? { closed } : {}) } }
    id = addPath(d, name, shape)
    if (rebuilt) d.paths.at(-1)!.steps = [{ simplify: { tolerance: Number((length / 2000).toPrecision(1)) } }]
  })
  select({ kind: 'path', id })
}

/** Points at the edges of a fixture; the chain under the pointer shows, a click holds it. */
export function EdgeTool({ roles }: { roles: Roles }) {
  const tool = useBench((b) => b.tool)
  const { camera, scene, invalidate } = useThree()
  const element = useThree((s) => s.gl.domElement)
  const active = tool.kind === 'edges' ? tool.fixture : null

  useEffect(() => {
    if (!active) return
    const hit = (e: PointerEvent): Vec3 | null => {
      const object = fixtureObject(scene, active)
      return (object && onObject(camera, element, e.clientX, e.clientY, object)?.toArray()) ?? null
    }
    return onClicks(
      element,
      (e) => {
        const { tool } = useBench.getState()
        if (tool.kind !== 'edges' || tool.at || e.buttons) return
        const at = hit(e)
        if (at) void askChain(at, tool.way, false).then(() => invalidate())
      },
      (e) => {
        const { tool } = useBench.getState()
        if (tool.kind !== 'edges') return
        const at = hit(e)
        if (at) void askChain(at, tool.way, true).then(() => invalidate())
      },
    )
  }, [active, camera, element, scene, invalidate])

  if (tool.kind !== 'edges' || !tool.chain || tool.chain.points.length < 2) return null
  const pts = tool.chain.points as Vec3[]
  return (
    <Line
      points={tool.chain.closed ? [...pts, pts[0]!] : pts}
      color={tool.at ? roles.orange : roles.kelp}
      lineWidth={3.5}
      depthTest={false}
      renderOrder={7}
    />
  )
}
