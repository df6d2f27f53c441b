import Box from '@mui/material/Box'
import { useTheme } from '@mui/material/styles'
import { scaleLinear } from 'd3-scale'
import { line as lineOf } from 'd3-shape'
import { useEffect, useMemo, useRef, useState } from 'react'
import type { Document } from '../../core/page.generated'
import { chosenCount, handleOf, isChosen, moved, pasted, toggled, without, type Chosen } from '../../core/keys'
import { presentOf, slotsOf, type Slot } from '../../core/slots'
import { show, shownUnit } from '../../core/units'
import { isKeyed, type Key } from '../../core/value'
import { follow } from '../../scene/pointing'
import { useBench } from '../../stores/bench'
import { useClock } from '../../stores/clock'
import { useView } from '../../stores/prefs'
import { GraphTools } from './GraphTools'
import { KeyMenu, type KeyMenuAt } from './KeyMenu'
import { StepGraph } from './StepGraph'
import { gutter, useWidth } from '../fields/measure'
import { mono, type Roles } from '../../look/theme'

export type GraphMode = 'value' | 'speed' | 'in step'

/** Line and text of a value: three of the theme's colours, and shades of them for more. */
export function colourOf(i: number, roles: Roles): [string, string] {
  const all: [string, string][] = [
    [roles.orange, roles.orangeText],
    [roles.kelp, roles.kelpText],
    [roles.brass, roles.brassText],
    [roles.slate, roles.secondary],
    [roles.ink, roles.ink],
  ]
  return all[i % all.length]!
}

/** The chosen thing's moving values over time: their keys are chosen, pulled and shaped here. */
export function Graph() {
  const { roles } = useTheme()
  const [ref, width] = useWidth<HTMLDivElement>()
  const [height, setHeight] = useState(150)
  const svg = useRef<SVGSVGElement>(null)
  const plot = useRef<HTMLDivElement>(null)
  const doc = useBench((b) => b.doc)
  const selected = useBench((b) => b.selected)
  const values = useBench((b) => b.answer?.readout.values)
  const moving = useBench((b) => b.shot.values)
  const units = useBench((b) => b.doc?.units) ?? 'mm'
  const range = useBench((b) => b.doc?.range)
  const frame = useClock((c) => c.frame)
  const [mode, setMode] = useState<GraphMode>('value')
  const [raw, setChosen] = useState<Chosen>({})
  const [box, setBox] = useState<[number, number, number, number] | null>(null)
  const [menu, setMenu] = useState<KeyMenuAt | null>(null)
  const [zoom, setZoom] = useState({ k: 1, shift: 0 })

  useEffect(() => {
    const el = plot.current
    if (!el) return
    const seen = new ResizeObserver(() => setHeight(Math.max(el.clientHeight, 60)))
    seen.observe(el)
    return () => seen.disconnect()
  }, [])

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
  const movings = slots.map((s) => s.key)
  const slotBy = Object.fromEntries(slots.map((s) => [s.key, s])) as Record<string, Slot>
  const at = (m: string) => slotBy[m]!
  const shown = slots.flatMap((s) => {
    const c = values?.find((v) => v.ref === s.ref)
    return c ? [{ ...c, field: s.key }] : []
  })
  /** Values that move have colours of their own; they come before those that do not. */
  const order = (m: string) => {
    const i = shown.findIndex((c) => c.field === m)
    return i < 0 ? shown.length + movings.indexOf(m) : i
  }
  const present = (m: string) => presentOf(at(m), doc, values, moving)
  const keysOf = (m: string) => {
    const v = at(m).get(doc)
    return isKeyed(v) ? v.keys : []
  }
  function tools(of: Chosen) {
    return (
      <GraphTools
        slots={slots}
        chosen={of}
        setChosen={setChosen}
        change={change}
        mode={mode === 'in step' && !inStep ? 'value' : mode}
        modes={inStep ? ['value', 'speed', 'in step'] : ['value', 'speed']}
        setMode={setMode}
        fit={() => setZoom({ k: 1, shift: 0 })}
        copy={copy}
        paste={paste}
        takeOut={takeOut}
        present={present}
      />
    )
  }
  // Keys that have gone, as by undo, are chosen no more.
  const chosen: Chosen = Object.fromEntries(
    movings.map((m) => [m, (raw[m] ?? []).filter((f) => keysOf(m).some((k) => k.frame === f))]),
  )
  const x = scaleLinear([range.first, Math.max(range.last, range.first + 1)], [gutter + 4, width - 24])
  const mid = height / 2
  /** From a value to a place: each quantity has its own scale, all share zoom and shift. */
  const scales = Object.fromEntries(
    movings.map((m) => {
      const like = shown.filter((c) => at(c.field).quantity === at(m).quantity)
      const all = like.flatMap((c) => {
        const from = Math.max(Math.floor((range.first - c.first) / c.step), 0)
        const to = Math.ceil((range.last - c.first) / c.step) + 1
        return (mode === 'value' ? c.values : c.speed).slice(from, to)
      })
      let lo = Math.min(...all, ...(mode === 'value' ? keysOf(m).map((k) => k.value) : []))
      let hi = Math.max(...all, ...(mode === 'value' ? keysOf(m).map((k) => k.value) : []))
      if (!(hi >= lo)) [lo, hi] = [0, 1]
      if (hi - lo < 1e-9) [lo, hi] = [lo - 0.5, hi + 0.5]
      const base = scaleLinear([lo, hi], [height - 14, 14])
      return [m, base.copy().range(base.range().map((p) => mid + (p - mid) * zoom.k + zoom.shift))]
    }),
  ) as Record<string, ReturnType<typeof scaleLinear<number, number>>>

  const place = (e: { clientX: number; clientY: number }) => {
    const b = svg.current!.getBoundingClientRect()
    return [e.clientX - b.left, e.clientY - b.top] as const
  }
  const change = (how: 'preview' | 'edit', label: string, put: (m: string) => ReturnType<typeof moved>) => {
    const next = movings.filter((m) => chosen[m]?.length).map((m) => [m, put(m)] as const)
    if (next.some(([, v]) => v === null)) return false
    const apply = (d: Document) => next.forEach(([m, v]) => at(m).put(d, v!))
    if (how === 'edit') useBench.getState().edit(label, apply)
    else useBench.getState().preview(apply)
    return true
  }

  function pullKeys(e: React.PointerEvent, m: string, k: Key) {
    if (e.button !== 0) return
    e.preventDefault()
    e.stopPropagation()
    svg.current?.focus()
    if (e.shiftKey) {
      setChosen(toggled(chosen, m, k.frame))
      return
    }
    const pulled = isChosen(chosen, m, k.frame) ? chosen : { [m]: [k.frame] }
    setChosen(pulled)
    const base = doc!
    const [x0, y0] = place(e)
    let last = { frames: 0, dy: 0 }
    const put = (d: Document) => {
      let fits = true
      const next = movings
        .filter((f) => pulled[f]?.length)
        .map((f) => {
          const rise = scales[f]!.invert(last.dy) - scales[f]!.invert(0)
          const v = moved(at(f).get(base), pulled[f]!, (o) => ({
            frame: o.frame + last.frames,
            value: Number((o.value + rise).toPrecision(12)),
          }))
          fits &&= v !== null
          return [f, v] as const
        })
      if (fits) next.forEach(([f, v]) => at(f).put(d, v!))
      return fits
    }
    follow(
      (ev) => {
        const [px, py] = place(ev)
        const before = last
        let dy = py - y0
        let frames = Math.round(x.invert(px) - x.invert(x0))
        // With Shift only the way that was pulled further counts.
        if (ev.shiftKey && Math.abs(px - x0) > Math.abs(dy)) dy = 0
        else if (ev.shiftKey) frames = 0
        last = { frames, dy: mode === 'value' ? dy : 0 }
        let fits = true
        useBench.getState().preview((d) => void (fits = put(d)))
        if (!fits) last = before
        else setChosen(Object.fromEntries(movings.map((f) => [f, (pulled[f] ?? []).map((q) => q + last.frames)])))
      },
      (kept) => {
        if (last.frames === 0 && last.dy === 0) {
          useClock.getState().goTo(k.frame)
          useBench.getState().cancel()
        } else if (kept) useBench.getState().commit(chosenCount(pulled) > 1 ? 'pull keys' : `pull a key of ${m}`)
        else {
          setChosen(pulled)
          useBench.getState().cancel()
        }
      },
    )
  }

  function pullHandle(e: React.PointerEvent, m: string, i: number, side: 'in' | 'out') {
    if (e.button !== 0) return
    e.preventDefault()
    e.stopPropagation()
    const keys = keysOf(m)
    const k = keys[i]!
    follow(
      (ev) => {
        const [px, py] = place(ev)
        const reach = side === 'out' ? keys[i + 1]!.frame - k.frame : keys[i - 1]!.frame - k.frame
        const far = x.invert(px) - k.frame
        const frames = side === 'out' ? Math.min(Math.max(far, 0), reach) : Math.max(Math.min(far, 0), reach)
        const round = (v: number) => Number(v.toPrecision(6))
        const to: [number, number] = [round(frames), round(scales[m]!.invert(py) - k.value)]
        useBench.getState().preview((d) => {
          const v = at(m).get(d)
          if (isKeyed(v)) v.keys[i]![side] = to
        })
      },
      (kept) => (kept ? useBench.getState().commit(`pull a handle of ${m}`) : useBench.getState().cancel()),
    )
  }

  function boxSelect(e: React.PointerEvent) {
    if (e.button !== 0) return
    const [x0, y0] = place(e)
    e.preventDefault()
    svg.current?.focus()
    const before = e.shiftKey ? chosen : {}
    let area: [number, number, number, number] | null = null
    follow(
      (ev) => {
        const [x1, y1] = place(ev)
        area = [Math.min(x0, x1), Math.min(y0, y1), Math.max(x0, x1), Math.max(y0, y1)]
        setBox(area)
      },
      (kept) => {
        setBox(null)
        if (!kept) return
        if (!area || area[2] - area[0] + area[3] - area[1] < 6) {
          setChosen({})
          if (x0 < gutter - 10) return
          useClock.getState().goTo(Math.min(Math.max(Math.round(x.invert(x0)), range!.first), range!.last))
          return
        }
        const a = area
        const inside = (m: string, k: Key) =>
          x(k.frame) >= a[0] && x(k.frame) <= a[2] && scales[m]!(k.value) >= a[1] && scales[m]!(k.value) <= a[3]
        setChosen(
          Object.fromEntries(
            movings.map((m) => [
              m,
              keysOf(m)
                .filter((k) => inside(m, k) || isChosen(before, m, k.frame))
                .map((k) => k.frame),
            ]),
          ),
        )
      },
    )
  }

  const copy = () => {
    useView.setState({
      copiedKeys: Object.fromEntries(movings.map((m) => [m, keysOf(m).filter((k) => isChosen(chosen, m, k.frame))])),
    })
  }
  const paste = () => {
    const copied = useView.getState().copiedKeys
    const from = Math.min(...movings.flatMap((m) => (copied[m] ?? []).map((k) => k.frame)))
    if (!Number.isFinite(from)) return
    useBench.getState().edit('paste keys', (d) => {
      for (const m of movings) {
        const keys = copied[m]
        if (!keys?.length) continue
        const at = frame + Math.min(...keys.map((k) => k.frame)) - from
        slotBy[m]!.put(d, pasted(slotBy[m]!.get(d), keys, at))
      }
    })
  }
  const takeOut = () =>
    change('edit', 'take out keys', (m) => without(at(m).get(doc), chosen[m]!, present(m))) && setChosen({})

  function onKey(e: React.KeyboardEvent) {
    const ctrl = e.ctrlKey || e.metaKey
    if (e.key === 'Delete' || e.key === 'Backspace') takeOut()
    else if (ctrl && e.key === 'c') copy()
    else if (ctrl && e.key === 'v') paste()
    else if (ctrl && e.key === 'a')
      setChosen(Object.fromEntries(movings.map((m) => [m, keysOf(m).map((k) => k.frame)])))
    else if (e.key === 'Escape' && chosenCount(chosen) > 0) setChosen({})
    else return
    e.preventDefault()
    e.stopPropagation()
  }

  if (mode === 'in step' && inStep) return <StepGraph head={tools({})} width={width} measured={ref} />
  // Names stand at the ends of their lines, one above the other where those meet.
  const nameAt: Record<string, number> = {}
  let free = height - 4
  for (const c of [...shown]
    .map((c) => {
      const list = mode === 'value' ? c.values : c.speed
      return { m: c.field, y: scales[c.field]!(list[Math.round((range.last - c.first) / c.step)] ?? 0) - 6 }
    })
    .sort((a, b) => b.y - a.y)) {
    nameAt[c.m] = Math.max(Math.min(c.y, free), 11)
    free = nameAt[c.m]! - 13
  }
  const first = shown[0]?.field
  return (
    <Box
      ref={ref}
      onKeyDown={onKey}
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
          onPointerDown={boxSelect}
          onWheel={(e) => {
            const [, py] = place(e)
            const k = Math.exp(-e.deltaY / 600)
            setZoom((z) => ({
              k: Math.min(Math.max(z.k * k, 0.2), 200),
              shift: py - mid - (py - mid - z.shift) * (Math.min(Math.max(z.k * k, 0.2), 200) / z.k),
            }))
          }}
        >
          <clipPath id="graph-plot">
            <rect x={gutter} y={0} width={Math.max(width - gutter - 4, 10)} height={height} />
          </clipPath>
          {first &&
            scales[first]!.ticks(Math.max(Math.floor(height / 34), 2)).map((v) => (
              <g key={v}>
                <line x1={gutter} x2={width - 20} y1={scales[first]!(v)} y2={scales[first]!(v)} stroke={roles.rule} />
                <text
                  x={gutter - 8}
                  y={scales[first]!(v) + 4}
                  textAnchor="end"
                  fontFamily={mono}
                  fill={roles.secondary}
                >
                  {show(v, at(first).quantity, units)}
                </text>
              </g>
            ))}
          {first && (
            <text x={16} y={14} fill={roles.secondary}>
              {shownUnit(at(first).quantity, units)}
              {mode === 'speed' ? '/s' : ''}
            </text>
          )}
          <line x1={x(frame)} x2={x(frame)} y1={0} y2={height} stroke={roles.orange} strokeWidth="1.2" opacity={0.7} />
          <g clipPath="url(#graph-plot)">
            {shown.map((c) => {
              const m = c.field
              const [stroke, text] = colourOf(order(m), roles)
              const list = mode === 'value' ? c.values : c.speed
              const d = lineOf<number>()
                .x((_, i) => x(c.first + i * c.step))
                .y((v) => scales[m]!(v))(list)
              return (
                <g key={m}>
                  <path d={d ?? ''} fill="none" stroke={stroke} strokeWidth="1.6" />
                  <text
                    x={width - 30}
                    y={nameAt[m]}
                    textAnchor="end"
                    fontWeight="600"
                    fill={text}
                    stroke={roles.paper}
                    strokeWidth="3"
                    paintOrder="stroke"
                  >
                    {at(m).name ?? m}
                  </text>
                </g>
              )
            })}
          </g>
          {mode === 'value' &&
            movings.map((m) => {
              const keys = keysOf(m)
              return keys.map((k, i) => {
                const on = isChosen(chosen, m, k.frame)
                const [stroke] = colourOf(order(m), roles)
                const sides = (['in', 'out'] as const).filter(
                  (side) =>
                    on &&
                    (side === 'out'
                      ? k.shape === 'free' && i < keys.length - 1
                      : i > 0 && keys[i - 1]!.shape === 'free'),
                )
                return (
                  <g key={`${m}${k.frame}`}>
                    {sides.map((side) => {
                      const h = handleOf(keys, i, side)
                      const [hx, hy] = [x(k.frame + h[0]), scales[m]!(k.value + h[1])]
                      return (
                        <g key={side}>
                          <line x1={x(k.frame)} y1={scales[m]!(k.value)} x2={hx} y2={hy} stroke={roles.slate} />
                          <circle
                            cx={hx}
                            cy={hy}
                            r={4}
                            fill={roles.slate}
                            style={{ cursor: 'grab' }}
                            data-testid={`graph-handle-${side}`}
                            onPointerDown={(e) => pullHandle(e, m, i, side)}
                          />
                        </g>
                      )
                    })}
                    <circle
                      cx={x(k.frame)}
                      cy={scales[m]!(k.value)}
                      r={on ? 5.5 : 4.6}
                      fill={on ? roles.brass : roles.raised}
                      stroke={on ? roles.brass : stroke}
                      strokeWidth="1.8"
                      style={{ cursor: 'move' }}
                      data-testid={`graph-key-${m}`}
                      data-frame={k.frame}
                      onPointerDown={(e) => pullKeys(e, m, k)}
                      onContextMenu={(e) => {
                        e.preventDefault()
                        e.stopPropagation()
                        if (!on) setChosen({ [m]: [k.frame] })
                        setMenu({ x: e.clientX, y: e.clientY, frame: k.frame, shape: k.shape })
                      }}
                    >
                      <title>
                        {m} at frame {k.frame}: {show(k.value, at(m).quantity, units)}{' '}
                        {shownUnit(at(m).quantity, units)}
                      </title>
                    </circle>
                  </g>
                )
              })
            })}
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
          {shown.length === 0 && (
            <text x={gutter} y={mid} fill={roles.secondary}>
              Nothing moves yet. Press Key in the time strip, or a bead beside a field, to set a key at the play head.
            </text>
          )}
        </svg>
        <KeyMenu
          at={menu}
          onClose={() => setMenu(null)}
          onGo={(f) => useClock.getState().goTo(f)}
          onShape={(shape) =>
            change('edit', `${shape} keys`, (m) => moved(at(m).get(doc), chosen[m]!, () => ({ shape })))
          }
          onDelete={takeOut}
          also={[['Copy', copy]]}
        />
      </Box>
    </Box>
  )
}
