import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import ToggleButton from '@mui/material/ToggleButton'
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup'
import type { EdgeWay } from '../api/client'
import { showWithUnit } from '../core/units'
import { useBench, type Tool } from '../stores/bench'
import type { Roles } from '../look/theme'
import { drawPlane, finishDrawing } from './DrawTool'
import { askChain, keepChain } from './EdgeTool'

const giveUp = () => useBench.setState({ tool: { kind: 'none' } })

function Bar({ children, roles }: { children: React.ReactNode; roles: Roles }) {
  return (
    <Box
      role="status"
      data-testid="tool-help"
      sx={{
        position: 'absolute',
        left: 0,
        right: 0,
        mx: 'auto',
        bottom: 60,
        width: 'fit-content',
        maxWidth: 'calc(100% - 24px)',
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
      }}
    >
      {children}
    </Box>
  )
}

/** What drawing waits for, and how it ends. */
export function DrawHelp({ tool, roles }: { tool: Extract<Tool, { kind: 'draw' }>; roles: Roles }) {
  const fixture = useBench((b) => b.doc?.fixtures?.find((f) => f.id === tool.over)?.name)
  const where = fixture ? `on ${fixture}` : drawPlane(tool.view).name
  const count = tool.points.length
  return (
    <Bar roles={roles}>
      <span>
        {count === 0
          ? `Click ${where} to set the first point.`
          : count < 3
            ? `Drawing ${where}: click to go on${fixture ? '; drag to look at its other sides' : ''}.`
            : 'Click the first point to close the path.'}
      </span>
      <Button disabled={count < 3} onClick={() => finishDrawing(true)}>
        Close path
      </Button>
      <Button disabled={count < 2} onClick={() => finishDrawing(false)}>
        Leave open
      </Button>
      <Button color="inherit" onClick={giveUp}>
        Cancel
      </Button>
    </Bar>
  )
}

const ways: [EdgeWay, string][] = [
  ['loop', 'Loop'],
  ['crease', 'Crease'],
  ['boundary', 'Rim'],
  ['middle', 'Middle of a band'],
]

/** Which way the chain of edges goes on, and what becomes of it. */
export function EdgeHelp({ tool, roles }: { tool: Extract<Tool, { kind: 'edges' }>; roles: Roles }) {
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
