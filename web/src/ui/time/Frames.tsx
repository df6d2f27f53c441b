import Box from '@mui/material/Box'
import { useTheme } from '@mui/material/styles'
import { scaleLinear } from 'd3-scale'
import { useEffect, useRef, useState } from 'react'
import { slotsOf, type Slot } from '../../core/slots'
import type { Document } from '../../core/page.generated'
import { isKeyed, withoutKey, type Key, playsOnce } from '../../core/value'
import { mono } from '../../look/theme'
import { follow } from '../../scene/pointing'
import { useBench } from '../../stores/bench'
import { chosenRig } from '../../stores/chosen'
import { useClock } from '../../stores/clock'
import { useView } from '../../stores/prefs'
import { gutter, useWidth } from '../fields/measure'
import { plantLabel, setEnd } from '../../core/plants'
import { FootBars } from './FootBars'
import { KeyMenu, type KeyMenuAt } from './KeyMenu'
import { LoopSolver } from './LoopSolver'

const y = { brace: 9, keys: 24, axis: 36, text: 52 }

/** One key a frame at which any of the values has one. */
function keysAt(d: Document | null, slots: readonly Slot[]): Key[] {
  const all = new Map<number, Key>()
  for (const s of slots) {
    const v = s.get(d!)
    if (isKeyed(v)) for (const k of v.keys) if (!all.has(k.frame)) all.set(k.frame, k)
  }
  return [...all.values()].sort((a, b) => a.frame - b.frame)
}

/** The ruler of frames with the play head, the keys of what is chosen and the loop brace. */
export function Frames() {
  const { roles } = useTheme()
  const [ref, width] = useWidth<HTMLDivElement>()
  const first = useBench((b) => b.doc?.range.first ?? 1)
  const last = useBench((b) => b.doc?.range.last ?? 96)
  const frame = useClock((c) => c.frame)
  const rig = useBench((b) => chosenRig(b)?.rig)
  const index = useBench((b) => chosenRig(b)?.index ?? -1)
  const doc = useBench((b) => b.doc)
  const selected = useBench((b) => b.selected)
  const wants = useView((v) => v.wantsLoop)
  const brace = useRef<SVGTextElement>(null)
  const [solving, setSolving] = useState<Element | null>(null)
  useEffect(() => {
    if (!wants) return
    useView.setState({ wantsLoop: false })
    setSolving(brace.current)
  }, [wants])
  const loop = useBench((b) => b.checks.find((c) => c.id === 'loop' && c.rig === rig?.id))
  const info = useBench((b) => b.answer?.readout.rigs[index])
  const svg = useRef<SVGSVGElement>(null)
  const [menu, setMenu] = useState<KeyMenuAt | null>(null)
  const [dragged, setDragged] = useState<{ from: number; to: number } | null>(null)
  const x = scaleLinear([first, Math.max(last, first + 1)], [gutter + 4, width - 24])
  const frameAt = (clientX: number) => x.invert(clientX - svg.current!.getBoundingClientRect().left)
  const toFrame = (clientX: number) => Math.round(frameAt(clientX))
  const slots = doc ? slotsOf(doc, selected?.kind, selected?.id) : []
  // Of the chosen thing, the frames at which any of its values has a key.
  const keyed = slots.filter((s) => doc && isKeyed(s.get(doc)))
  const namedAt = (frame: number) =>
    keyed
      .filter((s) => (s.get(doc!) as { keys: Key[] }).keys.some((k) => k.frame === frame))
      .map((s) => s.name)
      .join(', ')
  const keys = keysAt(doc, keyed)
  const count = last - first + 1
  const wish = (count * 60) / (width - gutter)
  const step = [1, 2, 4, 6, 12, 24, 48, 96, 120, 240, 480, 960, 2400, 4800, 9600, 24000].find((s) => s >= wish) ?? 48000
  const marks: number[] = [first]
  for (let f = Math.ceil((first + 1) / step) * step; f <= last; f += step) if (x(f) - x(first) > 26) marks.push(f)
  const meets = loop?.state !== 'outside'
  const pitches =
    info && info.pitch > 0 && info.row ? Math.round((info.travelRange[1] - info.travelRange[0]) / info.pitch) : 0
  const once = !!doc && playsOnce(doc)
  const braceText = once
    ? `${count} f · plays once`
    : !loop
      ? `${count} f`
      : meets
        ? `${count} f${pitches ? ` · ${Math.abs(pitches)} ${Math.abs(pitches) === 1 ? 'pitch' : 'pitches'}` : ''} · loop meets`
        : `${count} f · loop ${loop.word}`
  const braceColour = once ? roles.slate : meets ? roles.kelp : roles.red
  const braceInk = once ? roles.secondary : meets ? roles.kelpText : roles.redText
  const mid = (x(first) + x(last)) / 2
  const find = rig && !once ? 'Find a loop' : ''
  const half = braceText.length * 3.3 + find.length * 3 + (find ? 8 : 0) + 8

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

  function dragKey(e: React.PointerEvent, from: number) {
    if (e.button !== 0) return
    e.stopPropagation()
    e.preventDefault()
    const start = e.clientX
    let to = from
    follow(
      (ev) => {
        if (Math.abs(ev.clientX - start) < 3 && to === from) return
        to = toFrame(ev.clientX)
        if (keys.some((k) => k.frame === to && k.frame !== from)) return
        setDragged({ from, to })
      },
      (kept) => {
        setDragged(null)
        if (to === from) {
          useClock.getState().goTo(from)
          return
        }
        if (kept) moveKey(from, to)
      },
    )
  }

  function moveKey(from: number, to: number) {
    if (keys.some((k) => k.frame === to)) return
    useBench.getState().edit(`move a key to frame ${to}`, (d) => {
      for (const s of keyed) {
        const v = s.get(d)
        if (!isKeyed(v)) continue
        for (const k of v.keys) if (k.frame === from) k.frame = to
        v.keys.sort((a, b) => a.frame - b.frame)
      }
    })
  }

  const takeOut = (frame: number) =>
    useBench.getState().edit('delete a key', (d) => {
      for (const s of keyed) s.put(d, withoutKey(s.get(d), frame))
    })

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
        <path
          d={`M${x(first)} ${y.brace + 6}v-4q0 -2 2 -2H${mid - half}M${mid + half} ${y.brace}H${x(last) - 2}q2 0 2 2v4`}
          fill="none"
          stroke={braceColour}
          strokeWidth="1.4"
        />
        {/* It passes below the words of the brace. */}
        <line
          x1={x(frame)}
          x2={x(frame)}
          y1={Math.abs(x(frame) - mid) < half ? y.brace + 8 : 2}
          y2={y.axis + 6}
          stroke={roles.orange}
          strokeWidth="1.6"
        />
        <text
          ref={brace}
          x={mid}
          y={y.brace + 4}
          role={rig ? 'button' : undefined}
          tabIndex={rig ? 0 : undefined}
          aria-label={rig ? `${braceText}${find}` : undefined}
          data-testid="loop-brace"
          style={{ cursor: rig ? 'pointer' : 'default' }}
          onPointerDown={(e) => {
            if (!rig) return
            e.stopPropagation()
            setSolving(e.currentTarget)
          }}
          onKeyDown={(e) => e.key === 'Enter' && rig && setSolving(e.currentTarget)}
          textAnchor="middle"
          fontWeight="500"
          fill={braceInk}
          stroke={roles.paper}
          strokeWidth="4"
          paintOrder="stroke"
        >
          {braceText}
          {find && (
            <tspan dx={12} fill={roles.kelpText} style={{ textDecoration: 'underline' }}>
              {find}
            </tspan>
          )}
        </text>
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
        {keys.map((k) => {
          const at = dragged?.from === k.frame ? dragged.to : k.frame
          return (
            <circle
              key={k.frame}
              cx={x(at)}
              cy={y.keys}
              r={5}
              tabIndex={0}
              role="button"
              aria-label={`Key of ${rig ? namedAt(k.frame) : 'place'} at frame ${k.frame}`}
              fill={k.frame === frame ? roles.brass : k.shape === 'stepped' ? roles.paper : roles.brass}
              stroke={roles.brass}
              strokeWidth="1.6"
              style={{ cursor: 'ew-resize' }}
              onPointerDown={(e) => dragKey(e, k.frame)}
              onContextMenu={(e) => {
                e.preventDefault()
                e.stopPropagation()
                setMenu({ x: e.clientX, y: e.clientY, frame: k.frame, shape: k.shape })
              }}
              onKeyDown={(e) => {
                if (e.key === 'Delete' || e.key === 'Backspace') {
                  e.stopPropagation()
                  takeOut(k.frame)
                } else if (e.key === 'Enter') useClock.getState().goTo(k.frame)
                else if (e.key === 'ArrowLeft' || e.key === 'ArrowRight') {
                  e.preventDefault()
                  e.stopPropagation()
                  moveKey(k.frame, k.frame + (e.key === 'ArrowLeft' ? -1 : 1) * (e.shiftKey ? 10 : 1))
                }
              }}
            >
              <title>{`Key of ${namedAt(k.frame)} at frame ${k.frame}, ${k.shape ?? 'straight'} after it. Drag or ← → to move, Delete to take out, right-click for more.`}</title>
            </circle>
          )
        })}
      </svg>
      <KeyMenu
        at={menu}
        onClose={() => setMenu(null)}
        onGo={(f) => useClock.getState().goTo(f)}
        onShape={(shape) =>
          useBench.getState().edit(`${shape} after frame ${menu!.frame}`, (d) => {
            for (const s of keyed) {
              const v = s.get(d)
              const k = isKeyed(v) ? v.keys.find((k) => k.frame === menu!.frame) : undefined
              if (k) k.shape = shape
            }
          })
        }
        onDelete={() => takeOut(menu!.frame)}
      />
      {rig && <LoopSolver anchor={solving} onClose={() => setSolving(null)} rig={rig} index={index} />}
    </Box>
  )
}
