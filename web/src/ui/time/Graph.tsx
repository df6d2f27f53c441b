import Box from '@mui/material/Box'
import { useTheme } from '@mui/material/styles'
import { useMemo, useRef, useState } from 'react'
import { moved, type Chosen } from '../../core/keys'
import { presentOf, slotsOf } from '../../core/slots'
import { useBench } from '../../stores/bench'
import { useClock } from '../../stores/clock'
import { gutter, useHeight, useWidth } from '../fields/measure'
import { Curves, Keys, Scale } from './GraphCurves'
import { GraphTools } from './GraphTools'
import { graphed, zoomed, type Area, type GraphMode, type Zoom } from './graphed'
import { boxSelect, change, copy, paste, press, takeOut, type Hand } from './graphHand'
import { KeyMenu, type KeyMenuAt } from './KeyMenu'
import { PlotHead } from './Plot'
import { StepGraph } from './StepGraph'

const whole: Zoom = { k: 1, shift: 0 }

/** The chosen thing's moving values over time: their keys are chosen, pulled and shaped here. */
export function Graph() {
  const { roles } = useTheme()
  const [ref, width] = useWidth<HTMLDivElement>()
  const [plot, height] = useHeight<HTMLDivElement>()
  const svg = useRef<SVGSVGElement>(null)
  const doc = useBench((b) => b.doc)
  const selected = useBench((b) => b.selected)
  const values = useBench((b) => b.answer?.readout.values)
  const moving = useBench((b) => b.shot.values)
  const range = useBench((b) => b.doc?.range)
  const frame = useClock((c) => c.frame)
  const [wished, setMode] = useState<GraphMode>('value')
  const [raw, setChosen] = useState<Chosen>({})
  const [box, setBox] = useState<Area | null>(null)
  const [menu, setMenu] = useState<KeyMenuAt | null>(null)
  const [zoom, setZoom] = useState(whole)

  const slots = useMemo(() => (doc ? slotsOf(doc, selected?.kind, selected?.id) : []), [doc, selected])
  const inStep = useBench(
    (b) => b.selected?.kind === 'rig' && !!b.answer?.readout.rigs.find((r) => r.id === b.selected!.id)?.way,
  )
  if (!doc || !range || slots.length === 0) {
    return (
      <Box ref={ref} sx={{ px: 2, py: 1, color: roles.secondary }}>
        <Box component="span" sx={{ typography: 'h3', color: roles.ink, mr: 1.5 }}>
          Graph
        </Box>
        Choose a rig, carrier or tug to see its values over time.
      </Box>
    )
  }
  const mode = wished === 'in step' && !inStep ? 'value' : wished
  const shown = graphed({ doc, slots, values, range, mode, width, height, zoom })
  // Keys that have gone, as by undo, are chosen no more.
  const chosen: Chosen = Object.fromEntries(
    shown.movings.map((m) => [m, (raw[m] ?? []).filter((f) => shown.keysOf(m).some((k) => k.frame === f))]),
  )
  const present = (m: string) => presentOf(shown.at(m), doc, values, moving)
  const hand: Hand = {
    ...shown,
    chosen,
    setChosen,
    setBox,
    place: (e) => {
      const b = svg.current!.getBoundingClientRect()
      return [e.clientX - b.left, e.clientY - b.top]
    },
    focus: () => svg.current?.focus(),
    present,
  }
  const tools = (of: Chosen) => (
    <GraphTools
      slots={slots}
      chosen={of}
      setChosen={setChosen}
      change={(how, label, put) => change(hand, how, label, put)}
      mode={mode}
      modes={inStep ? ['value', 'speed', 'in step'] : ['value', 'speed']}
      setMode={setMode}
      fit={() => setZoom(whole)}
      copy={() => copy(hand)}
      paste={() => paste(hand)}
      takeOut={() => takeOut(hand)}
      present={present}
    />
  )
  if (mode === 'in step') return <StepGraph head={tools({})} width={width} measured={ref} />
  return (
    <Box
      ref={ref}
      onKeyDown={(e) => press(hand, e)}
      sx={{ height: '100%', display: 'flex', flexDirection: 'column', overflow: 'hidden' }}
    >
      {tools(chosen)}
      <Box ref={plot} sx={{ flex: 1, minHeight: 0 }}>
        <svg
          ref={svg}
          width={width}
          height={height}
          tabIndex={0}
          role="application"
          aria-label="Graph of the values over time: drag a box to choose keys, drag keys to move them"
          data-testid="graph-plot"
          style={{
            display: 'block',
            touchAction: 'none',
            userSelect: 'none',
            font: `11px/16px 'IBM Plex Sans', sans-serif`,
          }}
          onPointerDown={(e) => boxSelect(hand, e)}
          onWheel={(e) => {
            const [, at] = hand.place(e)
            setZoom((z) => zoomed(z, height, at, e.deltaY))
          }}
        >
          <clipPath id="graph-plot">
            <rect x={gutter} y={0} width={Math.max(width - gutter - 4, 10)} height={height} />
          </clipPath>
          <Scale g={shown} roles={roles} />
          <PlotHead x={shown.x(frame)} height={height} roles={roles} />
          <g clipPath="url(#graph-plot)">
            <Curves g={shown} roles={roles} />
          </g>
          {mode === 'value' &&
            shown.movings.map((m) => (
              <Keys
                key={m}
                g={hand}
                m={m}
                roles={roles}
                onMenu={(e, k) => setMenu({ x: e.clientX, y: e.clientY, frame: k.frame, shape: k.shape })}
              />
            ))}
          {box && (
            <rect
              x={box[0]}
              y={box[1]}
              width={box[2] - box[0]}
              height={box[3] - box[1]}
              fill={roles.kelp}
              fillOpacity={0.12}
              stroke={roles.kelp}
            />
          )}
          {shown.shown.length === 0 && (
            <text x={gutter} y={height / 2} fill={roles.secondary}>
              Nothing moves yet. Press Key in the time strip, or a bead beside a field, to set a key at the play head.
            </text>
          )}
        </svg>
        <KeyMenu
          at={menu}
          onClose={() => setMenu(null)}
          onGo={(f) => useClock.getState().goTo(f)}
          onShape={(shape) =>
            change(hand, 'edit', `${shape} keys`, (m) => moved(shown.at(m).get(doc), chosen[m]!, () => ({ shape })))
          }
          onDelete={() => takeOut(hand)}
          also={[['Copy', () => copy(hand)]]}
        />
      </Box>
    </Box>
  )
}
