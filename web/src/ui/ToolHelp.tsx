import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import ToggleButton from '@mui/material/ToggleButton'
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup'
import { useTheme } from '@mui/material/styles'
import { useState } from 'react'
import type { EdgeWay } from '../api/client'
import { showWithUnit } from '../core/units'
import { drawnPath } from '../core/value'
import { useBench, type Tool } from '../stores/bench'
import { NumberField } from './fields/NumberField'
import type { Roles } from '../look/theme'
import { drawPlane, drawPoint, finishDrawing, giveUpDrawing } from '../scene/DrawTool'
import { askChain, keepChain } from '../scene/EdgeTool'

const giveUp = () => useBench.setState({ tool: { kind: 'none' } })

function Bar({ children, roles }: { children: React.ReactNode; roles: Roles }) {
  return (
    <Box
      role="status"
      data-testid="tool-help"
      sx={{
        position: 'absolute',
        left: 36, // clear of the scale bar
        right: 0,
        mx: 'auto',
        bottom: 12,
        width: 'fit-content',
        maxWidth: 'calc(100% - 260px)',
        display: 'flex',
        flexWrap: 'wrap',
        justifyContent: 'center',
        alignItems: 'center',
        gap: 1,
        px: 1.5,
        py: 0.75,
        borderRadius: '6px',
        background: roles.raised,
        border: `1px solid ${roles.rule}`,
        fontSize: 12,
        // What is below its words can be clicked through them.
        pointerEvents: 'none',
        '& button, & input, & .MuiInputBase-root': { pointerEvents: 'auto' },
      }}
    >
      {children}
    </Box>
  )
}

/** What the tool that is used in the view waits for. */
export function ToolHelp() {
  const { roles } = useTheme()
  const tool = useBench((b) => b.tool)
  if (tool.kind === 'draw') return <DrawHelp tool={tool} roles={roles} />
  return tool.kind === 'edges' ? <EdgeHelp tool={tool} roles={roles} /> : null
}

/** What drawing waits for, what has been drawn, and how it ends. */
function DrawHelp({ tool, roles }: { tool: Extract<Tool, { kind: 'draw' }>; roles: Roles }) {
  const fixture = useBench((b) => b.doc?.fixtures?.find((f) => f.id === tool.over)?.name)
  const where = fixture ? `on ${fixture}` : drawPlane(tool.view).name
  const count = tool.points.length
  return (
    <Bar roles={roles}>
      <Box sx={{ flexBasis: '100%', textAlign: 'center' }}>
        {count === 0
          ? `Click ${where} to set the first point.`
          : count < 3
            ? `Drawing ${where}: click to go on${fixture ? '; drag to look at its other sides' : ''}.`
            : 'Click the first point to close the path.'}
      </Box>
      {!fixture && <DrawNumbers key={count > 0 ? 'next' : 'first'} tool={tool} roles={roles} />}
      <Button disabled={count < 3} onClick={() => finishDrawing(true)}>
        Close path
      </Button>
      <Button disabled={count < 2} onClick={() => finishDrawing(false)}>
        Leave open
      </Button>
      <Button color="inherit" onClick={giveUpDrawing}>
        Cancel
      </Button>
    </Bar>
  )
}

/** Where the pointer is, from the last point and in all; and fields to set the next point by numbers. */
function DrawNumbers({ tool, roles }: { tool: Extract<Tool, { kind: 'draw' }>; roles: Roles }) {
  const units = useBench((b) => b.doc?.units) ?? 'mm'
  const length = useBench((b) => b.answer?.readout.paths.find((p) => p.id === drawnPath)?.length)
  const { axes } = drawPlane(tool.view)
  const [a, b] = axes.map((x) => 'xyz'.indexOf(x)) as [number, number]
  const last = tool.points.at(-1)
  const show = (x: number) => showWithUnit(x, 'distance', units)
  const from = last ?? [0, 0, 0]
  const along = tool.at ? tool.at[a]! - from[a]! : 0
  const up = tool.at ? tool.at[b]! - from[b]! : 0
  const [typed, setTyped] = useState<[number, number]>(last ? [1, 0] : [0, 0])
  const set = () => {
    const at: [number, number, number] = last ? [...last] : [0, 0, 0]
    const [p, q] = last
      ? [typed[0] * Math.cos((typed[1] * Math.PI) / 180), typed[0] * Math.sin((typed[1] * Math.PI) / 180)]
      : typed
    at[a] = at[a]! + p
    at[b] = at[b]! + q
    drawPoint(at)
  }
  const words = tool.at
    ? [
        `${axes[0]} ${show(tool.at[a]!)}, ${axes[1]} ${show(tool.at[b]!)}`,
        ...(last
          ? [`${show(Math.hypot(along, up))} at ${((Math.atan2(up, along) * 180) / Math.PI).toFixed(0)}° from the last`]
          : []),
        ...(length && tool.points.length > 0 ? [`${show(length)} in all`] : []),
        ...(tool.to ? [`on ${tool.to}`] : []),
      ]
    : ['Points go to the grid, to points and hubs near them; not with Alt held.']
  return (
    <>
      <Box sx={{ flexBasis: '100%', textAlign: 'center', fontSize: 11, color: roles.secondary }} data-testid="drawn">
        {words.join(' · ')}
      </Box>
      <Box sx={{ display: 'grid', gridTemplateColumns: '110px 110px auto', gap: 1, alignItems: 'end' }}>
        <NumberField
          label={last ? 'Distance' : `First point, ${axes[0]}`}
          quantity="distance"
          value={typed[0]}
          onCommit={(v) => setTyped([v, typed[1]])}
        />
        <NumberField
          label={last ? 'Angle' : axes[1]}
          quantity={last ? 'angle' : 'distance'}
          value={typed[1]}
          onCommit={(v) => setTyped([typed[0], v])}
        />
        <Button variant="outlined" onClick={set}>
          Set point
        </Button>
      </Box>
    </>
  )
}

const ways: [EdgeWay, string][] = [
  ['loop', 'Loop'],
  ['crease', 'Crease'],
  ['boundary', 'Rim'],
  ['middle', 'Middle of a band'],
]

/** Which way the chain of edges goes on, and what becomes of it. */
function EdgeHelp({ tool, roles }: { tool: Extract<Tool, { kind: 'edges' }>; roles: Roles }) {
  const units = useBench((b) => b.doc?.units) ?? 'mm'
  const fixture = useBench((b) => b.doc?.fixtures?.find((f) => f.id === tool.fixture)?.name)
  const { chain } = tool
  return (
    <Bar roles={roles}>
      <ToggleButtonGroup
        exclusive
        size="small"
        value={tool.way}
        aria-label="How the edges go on"
        sx={{ height: 28 }}
        onChange={(_, way: EdgeWay | null) => {
          if (!way) return
          if (tool.at) void askChain(tool.at, way, true)
          else useBench.setState({ tool: { ...tool, way, chain: null } })
        }}
      >
        {ways.map(([way, name]) => (
          <ToggleButton key={way} value={way} sx={{ whiteSpace: 'nowrap' }}>
            {name}
          </ToggleButton>
        ))}
      </ToggleButtonGroup>
      <span>
        {chain
          ? `${chain.points.length} points, ${chain.closed ? 'closed' : 'open'}, ${showWithUnit(chain.length, 'distance', units)}`
          : `Click an edge of ${fixture}.`}
      </span>
      <Button disabled={!tool.at || !chain} onClick={() => keepChain(true)}>
        Use, rebuilt smooth
      </Button>
      <Button disabled={!tool.at || !chain} onClick={() => keepChain(false)}>
        Use as it is
      </Button>
      <Button color="inherit" onClick={giveUp}>
        Cancel
      </Button>
    </Bar>
  )
}
