import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import { useTheme } from '@mui/material/styles'
import { useRef, useState } from 'react'
import { follow } from '../../scene/pointing'
import type { Quantity } from '../../core/units'
import { NumberField } from './NumberField'

type Bead = [number, number]

const width = 226
const height = 64
const edge = 6

/**
 * A small curve of beads: a value along a length, eased from bead to bead and steady beyond
 * them. Beads are pulled; a press beside the curve sets one.
 */
export function BeadCurve({
  label,
  beads,
  from,
  to,
  top,
  quantity,
  onChange,
}: {
  label: string
  beads: Bead[]
  from: number
  to: number
  /** The greatest value that is shown. */
  top: number
  quantity: Quantity
  onChange: (beads: Bead[]) => void
}) {
  const { roles } = useTheme()
  const svg = useRef<SVGSVGElement>(null)
  const [pulled, setPulled] = useState<Bead[] | null>(null)
  const [chosen, setChosen] = useState<number | null>(null)
  const shown = pulled ?? beads
  const most = Math.max(top, ...shown.map((b) => b[1]))
  const x = (at: number) => edge + ((at - from) / (to - from)) * (width - 2 * edge)
  const y = (v: number) => height - edge - (v / most) * (height - 2 * edge)
  const value = (at: number) => {
    if (shown.length === 0) return 1
    if (at <= shown[0]![0]) return shown[0]![1]
    for (let i = 1; i < shown.length; i++) {
      const [a, v] = shown[i - 1]!
      const [b, w] = shown[i]!
      if (at < b) {
        const u = (at - a) / (b - a)
        return v + (w - v) * u * u * (3 - 2 * u)
      }
    }
    return shown.at(-1)![1]
  }
  const line = Array.from({ length: 81 }, (_, i) => {
    const at = from + ((to - from) * i) / 80
    return `${x(at).toFixed(1)},${y(value(at)).toFixed(1)}`
  }).join(' ')
  const place = (e: { clientX: number; clientY: number }): Bead => {
    const r = svg.current!.getBoundingClientRect()
    const at = from + ((e.clientX - r.left - edge) / (width - 2 * edge)) * (to - from)
    const v = ((height - edge - (e.clientY - r.top)) / (height - 2 * edge)) * most
    const clean = (n: number, digits: number) => Number(n.toFixed(digits))
    return [clean(Math.min(Math.max(at, from), to), 4), clean(Math.max(v, 0), 3)]
  }
  const sorted = (list: Bead[]) => [...list].sort((a, b) => a[0] - b[0])
  const apart = (list: Bead[]) => list.every((b, i) => i === 0 || b[0] > list[i - 1]![0])

  function pull(e: React.PointerEvent, i: number) {
    if (e.button !== 0) return
    e.preventDefault()
    e.stopPropagation()
    setChosen(i)
    let now = beads
    follow(
      (ev) => {
        const next = beads.map((b, k) => (k === i ? place(ev) : b))
        if (!apart(next)) return
        now = next
        setPulled(next)
      },
      (kept) => {
        setPulled(null)
        if (kept && now !== beads) onChange(now)
      },
    )
  }
  const bead = chosen === null ? undefined : shown[chosen]
  return (
    <Box role="group" aria-label={label} sx={{ display: 'grid', gap: 0.75 }}>
      <Box sx={{ fontSize: 11, lineHeight: '16px', color: roles.secondary }}>{label}</Box>
      <svg
        ref={svg}
        width={width}
        height={height}
        style={{ background: roles.sunken, borderRadius: 6, cursor: 'copy', touchAction: 'none' }}
        onPointerDown={(e) => {
          if (e.button !== 0) return
          const fresh = place(e)
          const next = sorted([...beads, fresh])
          if (!apart(next)) return
          setChosen(next.indexOf(fresh))
          onChange(next)
        }}
      >
        <line x1={edge} x2={width - edge} y1={y(1)} y2={y(1)} stroke={roles.border} strokeDasharray="2 3" />
        <polyline points={line} fill="none" stroke={roles.kelp} strokeWidth="1.6" />
        {shown.map((b, i) => (
          <circle
            key={i}
            cx={x(Math.min(Math.max(b[0], from), to))}
            cy={y(b[1])}
            r={i === chosen ? 5 : 4}
            fill={i === chosen ? roles.brass : roles.raised}
            stroke={roles.brass}
            strokeWidth="1.6"
            style={{ cursor: 'grab' }}
            onPointerDown={(e) => pull(e, i)}
          />
        ))}
      </svg>
      {bead && chosen !== null && (
        <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr auto', gap: 0.75, alignItems: 'end' }}>
          <NumberField
            label="At"
            value={bead[0]}
            quantity={quantity}
            onCommit={(v) => {
              const next = sorted(beads.map((b, k) => (k === chosen ? [v, b[1]] : b)))
              if (apart(next)) onChange(next)
            }}
          />
          <NumberField
            label="Share"
            value={bead[1]}
            quantity="plain"
            unit="×"
            onCommit={(v) => onChange(beads.map((b, k) => (k === chosen ? [b[0], v] : b)))}
          />
          <Button
            sx={{ minHeight: 26, px: 0.75 }}
            onClick={() => {
              setChosen(null)
              onChange(beads.filter((_, k) => k !== chosen))
            }}
          >
            Remove
          </Button>
        </Box>
      )}
    </Box>
  )
}
