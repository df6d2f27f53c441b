import { useTheme } from '@mui/material/styles'
import type { Payout } from '../../core/page.generated'
import { rows } from './rows'

/** The radius that a roll has at each distance of its sheet, over the way. */
export function RollRadius({ payout, x, length }: { payout: Payout; x: (s: number) => number; length: number }) {
  const { roles } = useTheme()
  const { radius: full, core, thickness, winds } = payout
  const capacity = (Math.PI * (full * full - core * core)) / thickness
  const end = Math.min(capacity, length)
  const looks = 60
  const line = Array.from({ length: looks + 1 }, (_, i) => {
    const s = (end * i) / looks
    const off = winds ? capacity - s : s
    const r = Math.sqrt(Math.max(full * full - (off * thickness) / Math.PI, core * core))
    return `${x(s).toFixed(1)} ${(rows.pieces - 7 - (12 * r) / full).toFixed(1)}`
  }).join('L')
  return (
    <path d={`M${line}`} fill="none" stroke={roles.slate} strokeWidth="1.1" strokeDasharray="3 2" data-testid="radius">
      <title>The radius of the roll over the distance</title>
    </path>
  )
}
