import Box from '@mui/material/Box'
import { useTheme } from '@mui/material/styles'
import { scaleLinear } from 'd3-scale'
import { line as lineOf } from 'd3-shape'
import { showWithUnit } from '../../core/units'
import { useBench } from '../../stores/bench'
import { useClock } from '../../stores/clock'
import { colourOf } from './graphed'
import { gutter, useHeight } from '../fields/measure'
import { OnPlot, PlotHead, ValueScale } from './Plot'

/** How far rigs that are to be in step have come, on one axis, and where they differ most. */
export function StepGraph({
  head,
  width,
  measured,
}: {
  head: React.ReactNode
  width: number
  measured: React.Ref<HTMLDivElement>
}) {
  const { roles } = useTheme()
  const [plot, height] = useHeight<HTMLDivElement>()
  const rigs = useBench((b) => b.answer?.readout.rigs)
  const doc = useBench((b) => b.doc)
  const chosen = useBench((b) => b.selected?.id)
  const checks = useBench((b) => b.checks)
  const frame = useClock((c) => c.frame)
  if (!rigs || !doc) return null
  const { range } = doc
  const units = doc.units ?? 'mm'
  const partner = (id: string) => doc.rigs.find((r) => r.id === id)?.inStep
  const lines = rigs.filter((r) => r.way && (r.id === chosen || partner(r.id) === chosen || partner(chosen!) === r.id))
  const all = lines.flatMap((r) => r.way!)
  const lo = Math.min(...all, 0)
  const hi = Math.max(...all, lo + 1e-9)
  const x = scaleLinear([range.first, Math.max(range.last, range.first + 1)], [gutter + 4, width - 24])
  const y = scaleLinear([lo, hi], [height - 14, 14])
  const worst = checks.filter(
    (c) => c.id === 'step' && Math.abs(c.value) > 1e-9 && lines.some((l) => l.id === c.rig) && c.where,
  )
  const draw = lineOf<number>()
    .x((_, i) => x(range.first + i))
    .y((v) => y(v))
  return (
    <Box ref={measured} sx={{ height: '100%', display: 'flex', flexDirection: 'column', overflow: 'hidden' }}>
      {head}
      <Box ref={plot} sx={{ flex: 1, minHeight: 0 }}>
        <svg
          width={width}
          height={height}
          role="img"
          aria-label="How far the rigs have come at each frame"
          data-testid="step-plot"
          style={{ display: 'block', font: `11px/16px 'IBM Plex Sans', sans-serif` }}
        >
          <ValueScale scale={y} quantity="distance" after=" come" {...{ width, height, roles }} />
          <PlotHead x={x(frame)} height={height} roles={roles} />
          {lines.map((r, i) => {
            const [stroke, text] = colourOf(i, roles)
            return (
              <g key={r.id}>
                <path d={draw(r.way!) ?? ''} fill="none" stroke={stroke} strokeWidth={lines.length - i + 0.8} />
                <OnPlot
                  x={width - 30 - 120 * i}
                  y={Math.max(y(r.way!.at(-1) ?? 0) - 6, 12)}
                  textAnchor="end"
                  fill={text}
                  roles={roles}
                >
                  {doc.rigs.find((d) => d.id === r.id)?.name}
                </OnPlot>
              </g>
            )
          })}
          {worst.map((c) => {
            const f = c.where!.frame
            const late = f - range.first > (range.last - range.first) / 2
            const ways = lines.map((l) => l.way![f - range.first] ?? 0)
            return (
              <g key={c.rig} data-testid="step-worst">
                <line
                  x1={x(f)}
                  x2={x(f)}
                  y1={y(Math.min(...ways))}
                  y2={y(Math.max(...ways))}
                  stroke={c.state === 'outside' ? roles.red : roles.kelp}
                  strokeWidth="2"
                />
                <OnPlot
                  x={late ? x(f) - 6 : x(f) + 6}
                  textAnchor={late ? 'end' : 'start'}
                  y={(y(Math.min(...ways)) + y(Math.max(...ways))) / 2 + 4}
                  fill={c.state === 'outside' ? roles.redText : roles.kelpText}
                  roles={roles}
                >
                  {c.word} {showWithUnit(Math.abs(c.value), 'length', units)}, frame {f}
                </OnPlot>
              </g>
            )
          })}
        </svg>
      </Box>
    </Box>
  )
}
