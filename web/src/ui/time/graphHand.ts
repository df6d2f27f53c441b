import type { Document } from '../../core/page.generated'
import { chosenCount, isChosen, moved, pasted, toggled, without, type Chosen } from '../../core/keys'
import { isKeyed, type Key } from '../../core/value'
import { follow } from '../../scene/pointing'
import { useBench } from '../../stores/bench'
import { useClock } from '../../stores/clock'
import { useView } from '../../stores/prefs'
import { gutter } from '../fields/measure'
import type { Area, Graphed } from './graphed'

// What is done to the keys in the graph, by pointer and by command.

/** The graph as it is handled: which keys are chosen, and where the pointer is on the plot. */
export interface Hand extends Graphed {
  chosen: Chosen
  setChosen: (c: Chosen) => void
  setBox: (area: Area | null) => void
  place: (e: { clientX: number; clientY: number }) => readonly [number, number]
  /** Keys pressed from now on are the graph's. */
  focus: () => void
  /** What a value comes to at the play head. */
  present: (m: string) => number
}

/** Whether it is the main button, whose press then belongs to the graph alone. */
function taken(e: React.PointerEvent): boolean {
  if (e.button !== 0) return false
  e.preventDefault()
  e.stopPropagation()
  return true
}

/** Changes the chosen keys; false where two keys of a value would meet on one frame. */
export function change(g: Hand, how: 'preview' | 'edit', label: string, put: (m: string) => ReturnType<typeof moved>) {
  const next = g.movings.filter((m) => g.chosen[m]?.length).map((m) => [m, put(m)] as const)
  if (next.some(([, v]) => v === null)) return false
  const apply = (d: Document) => next.forEach(([m, v]) => g.at(m).put(d, v!))
  if (how === 'edit') useBench.getState().edit(label, apply)
  else useBench.getState().preview(apply)
  return true
}

/** Pulls a key, with all that are chosen where it is one of them. */
export function pullKeys(g: Hand, e: React.PointerEvent, m: string, k: Key) {
  if (!taken(e)) return
  g.focus()
  if (e.shiftKey) {
    g.setChosen(toggled(g.chosen, m, k.frame))
    return
  }
  const pulled = isChosen(g.chosen, m, k.frame) ? g.chosen : { [m]: [k.frame] }
  g.setChosen(pulled)
  const [x0, y0] = g.place(e)
  let last = { frames: 0, dy: 0 }
  const put = (d: Document) => {
    let fits = true
    const next = g.movings
      .filter((f) => pulled[f]?.length)
      .map((f) => {
        const rise = g.scales[f]!.invert(last.dy) - g.scales[f]!.invert(0)
        const v = moved(g.at(f).get(g.doc), pulled[f]!, (o) => ({
          frame: o.frame + last.frames,
          value: Number((o.value + rise).toPrecision(12)),
        }))
        fits &&= v !== null
        return [f, v] as const
      })
    if (fits) next.forEach(([f, v]) => g.at(f).put(d, v!))
    return fits
  }
  follow(
    (ev) => {
      const [px, py] = g.place(ev)
      const before = last
      let dy = py - y0
      let frames = Math.round(g.x.invert(px) - g.x.invert(x0))
      // With Shift only the way that was pulled further counts.
      if (ev.shiftKey && Math.abs(px - x0) > Math.abs(dy)) dy = 0
      else if (ev.shiftKey) frames = 0
      last = { frames, dy: g.mode === 'value' ? dy : 0 }
      let fits = true
      useBench.getState().preview((d) => void (fits = put(d)))
      if (!fits) last = before
      else g.setChosen(Object.fromEntries(g.movings.map((f) => [f, (pulled[f] ?? []).map((q) => q + last.frames)])))
    },
    (kept) => {
      if (last.frames === 0 && last.dy === 0) {
        useClock.getState().goTo(k.frame)
        useBench.getState().cancel()
      } else if (kept) useBench.getState().commit(chosenCount(pulled) > 1 ? 'pull keys' : `pull a key of ${m}`)
      else {
        g.setChosen(pulled)
        useBench.getState().cancel()
      }
    },
  )
}

/** Pulls a handle of a key, up to the next key. */
export function pullHandle(g: Hand, e: React.PointerEvent, m: string, i: number, side: 'in' | 'out') {
  if (!taken(e)) return
  const keys = g.keysOf(m)
  const k = keys[i]!
  follow(
    (ev) => {
      const [px, py] = g.place(ev)
      const reach = side === 'out' ? keys[i + 1]!.frame - k.frame : keys[i - 1]!.frame - k.frame
      const far = g.x.invert(px) - k.frame
      const frames = side === 'out' ? Math.min(Math.max(far, 0), reach) : Math.max(Math.min(far, 0), reach)
      const round = (v: number) => Number(v.toPrecision(6))
      const to: [number, number] = [round(frames), round(g.scales[m]!.invert(py) - k.value)]
      useBench.getState().preview((d) => {
        const v = g.at(m).get(d)
        if (isKeyed(v)) v.keys[i]![side] = to
      })
    },
    (kept) => (kept ? useBench.getState().commit(`pull a handle of ${m}`) : useBench.getState().cancel()),
  )
}

/** Chooses the keys in a box that is drawn; a press alone chooses none and goes to its frame. */
export function boxSelect(g: Hand, e: React.PointerEvent) {
  if (e.button !== 0) return
  const [x0, y0] = g.place(e)
  e.preventDefault()
  g.focus()
  const before = e.shiftKey ? g.chosen : {}
  let area: Area | null = null
  follow(
    (ev) => {
      const [x1, y1] = g.place(ev)
      area = [Math.min(x0, x1), Math.min(y0, y1), Math.max(x0, x1), Math.max(y0, y1)]
      g.setBox(area)
    },
    (kept) => {
      g.setBox(null)
      if (!kept) return
      if (!area || area[2] - area[0] + area[3] - area[1] < 6) {
        g.setChosen({})
        if (x0 < gutter - 10) return
        useClock.getState().goTo(Math.min(Math.max(Math.round(g.x.invert(x0)), g.range.first), g.range.last))
        return
      }
      const [left, top, right, bottom] = area
      const inside = (m: string, k: Key) => {
        const [px, py] = [g.x(k.frame), g.scales[m]!(k.value)]
        return px >= left && px <= right && py >= top && py <= bottom
      }
      g.setChosen(
        Object.fromEntries(
          g.movings.map((m) => [
            m,
            g
              .keysOf(m)
              .filter((k) => inside(m, k) || isChosen(before, m, k.frame))
              .map((k) => k.frame),
          ]),
        ),
      )
    },
  )
}

/** Keeps the chosen keys for pasting, in whatever scene. */
export function copy(g: Hand) {
  useView.setState({
    copiedKeys: Object.fromEntries(
      g.movings.map((m) => [m, g.keysOf(m).filter((k) => isChosen(g.chosen, m, k.frame))]),
    ),
  })
}

/** Sets the copied keys down with the first of them at the play head. */
export function paste(g: Hand) {
  const copied = useView.getState().copiedKeys
  const frame = useClock.getState().frame
  const from = Math.min(...g.movings.flatMap((m) => (copied[m] ?? []).map((k) => k.frame)))
  if (!Number.isFinite(from)) return
  useBench.getState().edit('paste keys', (d) => {
    for (const m of g.movings) {
      const keys = copied[m]
      if (!keys?.length) continue
      const at = frame + Math.min(...keys.map((k) => k.frame)) - from
      g.at(m).put(d, pasted(g.at(m).get(d), keys, at))
    }
  })
}

/** Takes the chosen keys out. */
export function takeOut(g: Hand) {
  const out = (m: string) => without(g.at(m).get(g.doc), g.chosen[m]!, g.present(m))
  if (change(g, 'edit', 'take out keys', out)) g.setChosen({})
}

/** What a key of the keyboard does. */
export function press(g: Hand, e: React.KeyboardEvent) {
  const ctrl = e.ctrlKey || e.metaKey
  if (e.key === 'Delete' || e.key === 'Backspace') takeOut(g)
  else if (ctrl && e.key === 'c') copy(g)
  else if (ctrl && e.key === 'v') paste(g)
  else if (ctrl && e.key === 'a')
    g.setChosen(Object.fromEntries(g.movings.map((m) => [m, g.keysOf(m).map((k) => k.frame)])))
  else if (e.key === 'Escape' && chosenCount(g.chosen) > 0) g.setChosen({})
  else return
  e.preventDefault()
  e.stopPropagation()
}
