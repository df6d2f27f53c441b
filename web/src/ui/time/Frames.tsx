import Box from '@mui/material/Box'
import { useTheme } from '@mui/material/styles'
import { scaleLinear } from 'd3-scale'
import { useEffect, useRef, useState } from 'react'
import { mono } from '../../look/theme'
import { follow } from '../../scene/pointing'
import { useBench } from '../../stores/bench'
import { chosenRig } from '../../stores/chosen'
import { useClock } from '../../stores/clock'
import { useView } from '../../stores/prefs'
import { gutter, useWidth } from '../fields/measure'
import { plantLabel, setEnd } from '../../core/plants'
import { FootBars } from './FootBars'
import { FrameKeys, useKeys } from './FrameKeys'
import { KeyMenu, type KeyMenuAt } from './KeyMenu'
import { LoopBrace, useBraceText } from './LoopBrace'
import { LoopSolver } from './LoopSolver'
import { timeRows as y } from './rows'

/** The ruler of frames with the play head, the keys of what is chosen and the loop brace. */
export function Frames() {
  const { roles } = useTheme()
  const [ref, width] = useWidth<HTMLDivElement>()
  const first = useBench((b) => b.doc?.range.first ?? 1)
  const last = useBench((b) => b.doc?.range.last ?? 96)
  const frame = useClock((c) => c.frame)
  const rig = useBench((b) => chosenRig(b)?.rig)
  const index = useBench((b) => chosenRig(b)?.index ?? -1)
  const wants = useView((v) => v.wantsLoop)
  const brace = useRef<SVGTextElement>(null)
  const [solving, setSolving] = useState<Element | null>(null)
  useEffect(() => {
    if (!wants) return
    useView.setState({ wantsLoop: false })
    setSolving(brace.current)
  }, [wants])
  const info = useBench((b) => b.answer?.readout.rigs[index])
  const svg = useRef<SVGSVGElement>(null)
  const [menu, setMenu] = useState<KeyMenuAt | null>(null)
  const x = scaleLinear([first, Math.max(last, first + 1)], [gutter + 4, width - 24])
  const frameAt = (clientX: number) => x.invert(clientX - svg.current!.getBoundingClientRect().left)
  const toFrame = (clientX: number) => Math.round(frameAt(clientX))
  const keys = useKeys()
  const count = last - first + 1
  const wish = (count * 60) / (width - gutter)
  const step = [1, 2, 4, 6, 12, 24, 48, 96, 120, 240, 480, 960, 2400, 4800, 9600, 24000].find((s) => s >= wish) ?? 48000
  const marks: number[] = [first]
  for (let f = Math.ceil((first + 1) / step) * step; f <= last; f += step) if (x(f) - x(first) > 26) marks.push(f)
  const mid = (x(first) + x(last)) / 2
  const says = useBraceText()

  function scrub(e: React.PointerEvent) {
    if (e.button !== 0) return
    e.preventDefault()
    const clock = useClock.getState()
    clock.pause()
    clock.goTo(toFrame(e.clientX))
    follow(
      (ev) => clock.goTo(toFrame(ev.clientX)),
      () => undefined,
    )
  }

  return (
    <Box ref={ref} sx={{ flex: 1, minHeight: 0 }}>
      <svg
        ref={svg}
        width={width}
        height={56}
        style={{
          display: 'block',
          font: `11px/16px 'IBM Plex Sans', sans-serif`,
          touchAction: 'none',
          userSelect: 'none',
        }}
        onPointerDown={(e) => e.clientX - svg.current!.getBoundingClientRect().left > gutter - 10 && scrub(e)}
        data-testid="frames"
      >
        <text x={16} y={y.keys + 4} fill={roles.secondary}>
          {info?.cycle ? 'keys, feet' : 'keys'}
        </text>
        <text x={16} y={y.text} fill={roles.secondary}>
          frames
        </text>
        <LoopBrace says={says} from={x(first)} to={x(last)} words={brace} onFind={rig && setSolving} />
        {/* It passes below the words of the brace. */}
        <line
          x1={x(frame)}
          x2={x(frame)}
          y1={Math.abs(x(frame) - mid) < says.half ? y.brace + 8 : 2}
          y2={y.axis + 6}
          stroke={roles.orange}
          strokeWidth="1.6"
        />
        {info?.cycle && (
          <FootBars
            cycle={info.cycle}
            first={first}
            x={x}
            frameAt={frameAt}
            top={y.brace + 7}
            bottom={y.axis - 2}
            onChange={(end) =>
              useBench
                .getState()
                .edit(plantLabel(info.cycle!, end), (d) => setEnd(d.rigs[index]!.cycle!, info.cycle!, end))
            }
          />
        )}
        <line x1={x(first)} x2={x(last)} y1={y.keys} y2={y.keys} stroke={roles.rule} />
        <line x1={x(first)} x2={x(last)} y1={y.axis} y2={y.axis} stroke={roles.secondary} />
        {count <= 400 && (
          <path
            d={Array.from({ length: count }, (_, i) => `M${x(first + i).toFixed(1)} ${y.axis}v3`).join('')}
            stroke={roles.secondary}
            strokeWidth="0.7"
          />
        )}
        {marks.map((f) => (
          <g key={f}>
            <line x1={x(f)} x2={x(f)} y1={y.axis} y2={y.axis + 5} stroke={roles.secondary} />
            {Math.abs(x(f) - x(frame)) > 28 && (
              <text x={x(f)} y={y.text} textAnchor="middle" fontFamily={mono} fill={roles.secondary}>
                {f}
              </text>
            )}
          </g>
        ))}
        <rect x={x(frame) - 15} y={y.text - 11} width={30} height={15} rx={5} fill={roles.orangeText} />
        <text x={x(frame)} y={y.text} textAnchor="middle" fontFamily={mono} fontWeight="500" fill={roles.paper}>
          {frame}
        </text>
        <FrameKeys of={keys} frame={frame} x={x} toFrame={toFrame} onMenu={setMenu} />
      </svg>
      <KeyMenu
        at={menu}
        onClose={() => setMenu(null)}
        onGo={(f) => useClock.getState().goTo(f)}
        onShape={(shape) => keys.shape(menu!.frame, shape)}
        onDelete={() => keys.takeOut(menu!.frame)}
      />
      {rig && <LoopSolver anchor={solving} onClose={() => setSolving(null)} rig={rig} index={index} />}
    </Box>
  )
}
