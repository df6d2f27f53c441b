import type { ScaleLinear } from 'd3-scale'
import { useState } from 'react'
import { useTheme } from '@mui/material/styles'
import type { Document } from '../../core/page.generated'
import { slotsOf, type Slot } from '../../core/slots'
import { isKeyed, withoutKey, type Key } from '../../core/value'
import { follow } from '../../scene/pointing'
import { useBench } from '../../stores/bench'
import { useClock } from '../../stores/clock'
import { timeRows } from './rows'
import type { KeyMenuAt } from './KeyMenu'

/** One key a frame at which any of the values has one. */
function keysAt(d: Document | null, slots: readonly Slot[]): Key[] {
  const all = new Map<number, Key>()
  for (const s of slots) {
    const v = s.get(d!)
    if (isKeyed(v)) for (const k of v.keys) if (!all.has(k.frame)) all.set(k.frame, k)
  }
  return [...all.values()].sort((a, b) => a.frame - b.frame)
}

/** The keys of the chosen thing, and what the time strip does with them. */
export function useKeys() {
  const doc = useBench((b) => b.doc)
  const selected = useBench((b) => b.selected)
  const slots = doc ? slotsOf(doc, selected?.kind, selected?.id) : []
  // Of the chosen thing, the frames at which any of its values has a key.
  const keyed = slots.filter((s) => doc && isKeyed(s.get(doc)))
  const namedAt = (frame: number) =>
    keyed
      .filter((s) => (s.get(doc!) as { keys: Key[] }).keys.some((k) => k.frame === frame))
      .map((s) => s.name)
      .join(', ')
  const keys = keysAt(doc, keyed)
  const edit = useBench((b) => b.edit)

  function moveKey(from: number, to: number) {
    if (keys.some((k) => k.frame === to)) return
    edit(`move a key to frame ${to}`, (d) => {
      for (const s of keyed) {
        const v = s.get(d)
        if (!isKeyed(v)) continue
        for (const k of v.keys) if (k.frame === from) k.frame = to
        v.keys.sort((a, b) => a.frame - b.frame)
      }
    })
  }

  const takeOut = (frame: number) =>
    edit('delete a key', (d) => {
      for (const s of keyed) s.put(d, withoutKey(s.get(d), frame))
    })

  const shape = (frame: number, to: Key['shape']) =>
    edit(`${to} after frame ${frame}`, (d) => {
      for (const s of keyed) {
        const v = s.get(d)
        const k = isKeyed(v) ? v.keys.find((k) => k.frame === frame) : undefined
        if (k) k.shape = to
      }
    })

  return { keys, namedAt, moveKey, takeOut, shape }
}

/** The keys on the strip, which are dragged, stepped by arrows, taken out and asked for more. */
export function FrameKeys({
  of,
  frame,
  x,
  toFrame,
  onMenu,
}: {
  of: ReturnType<typeof useKeys>
  frame: number
  x: ScaleLinear<number, number>
  toFrame: (clientX: number) => number
  onMenu: (at: KeyMenuAt) => void
}) {
  const { roles } = useTheme()
  const { keys, namedAt, moveKey, takeOut } = of
  const [dragged, setDragged] = useState<{ from: number; to: number } | null>(null)

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

  return (
    <>
      {keys.map((k) => {
        const at = dragged?.from === k.frame ? dragged.to : k.frame
        return (
          <circle
            key={k.frame}
            cx={x(at)}
            cy={timeRows.keys}
            r={5}
            tabIndex={0}
            role="button"
            aria-label={`Key of ${namedAt(k.frame)} at frame ${k.frame}`}
            fill={k.frame === frame ? roles.brass : k.shape === 'stepped' ? roles.paper : roles.brass}
            stroke={roles.brass}
            strokeWidth="1.6"
            style={{ cursor: 'ew-resize' }}
            onPointerDown={(e) => dragKey(e, k.frame)}
            onContextMenu={(e) => {
              e.preventDefault()
              e.stopPropagation()
              onMenu({ x: e.clientX, y: e.clientY, frame: k.frame, shape: k.shape })
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
    </>
  )
}
