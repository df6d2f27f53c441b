import type { ScaleLinear } from 'd3-scale'
import { show, shownUnit, type Quantity } from '../../core/units'
import { mono, type Roles } from '../../look/theme'
import { useBench } from '../../stores/bench'
import { gutter } from '../fields/measure'

/** The lines of a plot's scale, with their numbers and their unit. */
export function ValueScale({
  scale,
  quantity,
  after,
  width,
  height,
  roles,
}: {
  scale: ScaleLinear<number, number>
  quantity: Quantity
  /** Said behind the unit. */
  after: string
  width: number
  height: number
  roles: Roles
}) {
  const units = useBench((b) => b.doc?.units) ?? 'mm'
  return (
    <>
      {scale.ticks(Math.max(Math.floor(height / 34), 2)).map((v) => (
        <g key={v}>
          <line x1={gutter} x2={width - 20} y1={scale(v)} y2={scale(v)} stroke={roles.rule} />
          <text x={gutter - 8} y={scale(v) + 4} textAnchor="end" fontFamily={mono} fill={roles.secondary}>
            {show(v, quantity, units)}
          </text>
        </g>
      ))}
      <text x={16} y={14} fill={roles.secondary}>
        {shownUnit(quantity, units)}
        {after}
      </text>
    </>
  )
}

/** Where the play head stands over a plot. */
export function PlotHead({ x, height, roles }: { x: number; height: number; roles: Roles }) {
  return <line x1={x} x2={x} y1={0} y2={height} stroke={roles.orange} strokeWidth="1.2" opacity={0.7} />
}

/** What is written over a plot's lines, on a rim of the paper's colour so that they do not cross it. */
export function OnPlot({
  roles,
  ...text
}: { roles: Roles } & Pick<React.SVGProps<SVGTextElement>, 'x' | 'y' | 'fill' | 'textAnchor' | 'children'>) {
  return <text {...text} fontWeight="600" stroke={roles.paper} strokeWidth="3" paintOrder="stroke" />
}
