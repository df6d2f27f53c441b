import Box from '@mui/material/Box'
import { useTheme } from '@mui/material/styles'
import { scaleLinear } from 'd3-scale'
import { useMemo, useRef } from 'react'
import { showWithUnit, shownUnit } from '../../core/units'
import { mono } from '../../look/theme'
import { useBench } from '../../stores/bench'
import { chosenRig, stripPath } from '../../stores/chosen'
import { gutter, useWidth } from '../fields/measure'
import { kindIn } from '../kinds/kinds'
import { Ruler } from './Ruler'
import { rows } from './rows'
import { Contacts, Curvature, Ends } from './StripPath'
import { PiecesHand, StripRig, WorstPlace } from './StripRig'

/** The path laid out straight: curvature, pieces, seam, start and travel. */
export function LengthStrip() {
  const { roles } = useTheme()
  const [ref, width] = useWidth<HTMLDivElement>()
  const units = useBench((b) => b.doc?.units) ?? 'mm'
  const pathIndex = useBench((b) => stripPath(b)?.index ?? -1)
  const path = useBench((b) => stripPath(b)?.path)
  const info = useBench((b) => b.answer?.readout.paths[pathIndex])
  const rigIndex = useBench((b) => chosenRig(b)?.index ?? -1)
  const rig = useBench((b) => chosenRig(b)?.rig)
  const first = useBench((b) => b.shown.find((p) => p.rig === rigIndex)?.distances[0])
  const row = useBench((b) => b.answer?.readout.rigs[rigIndex]?.row)
  const svg = useRef<SVGSVGElement>(null)
  const length = info?.length ?? 1
  const x = useMemo(() => scaleLinear([0, length], [gutter, Math.max(width - 20, gutter + 50)]), [length, width])
  const title = rig?.name ?? path?.name ?? ''

  if (!info || !path) {
    return (
      <Box ref={ref} sx={{ height: '100%', px: 2, py: 1, color: roles.secondary }}>
        <Box component="span" sx={{ typography: 'h3', color: roles.ink, mr: 1.5 }}>
          Length
        </Box>
        The chosen path lies here as a ruler, with its pieces at their distances.
      </Box>
    )
  }
  const rulerUnit = shownUnit('distance', units)
  const perUnit = rulerUnit === 'ft' ? 0.3048 : 1

  return (
    <Box ref={ref} sx={{ height: '100%', overflow: 'hidden', position: 'relative' }}>
      <svg
        ref={svg}
        width={width}
        height={160}
        style={{ display: 'block', userSelect: 'none', font: `11px/16px 'IBM Plex Sans', sans-serif` }}
        role="group"
        aria-label={`${title}, ${showWithUnit(length, 'distance', units)} long`}
      >
        <text x={16} y={rows.head + 4} fontSize="13" fontWeight="600" fill={roles.ink}>
          Length
        </text>
        <text x={67} y={rows.head + 4} fontSize="12" fill={roles.secondary}>
          {title}, {info.closed ? 'closed' : 'open'},{' '}
          <tspan fontFamily={mono}>{showWithUnit(length, 'distance', units)}</tspan>
        </text>
        {first !== undefined && rig && (
          <text
            x={width - 20}
            y={rows.head + 4}
            textAnchor="end"
            fontSize="12"
            fontWeight="500"
            fill={roles.orangeText}
          >
            {row ? 'Piece 1' : rig.name} at {showWithUnit(first, 'distance', units)}
          </text>
        )}
        <g fill={roles.secondary}>
          <text x={16} y={rows.curve + 4}>
            curvature
          </text>
          {rig && (
            <>
              <text x={16} y={rows.pieces + 4}>
                {kindIn(rig).row}
              </text>
              <text x={16} y={rows.roll + 1}>
                roll, twist
              </text>
            </>
          )}
          <text x={16} y={rows.ruler + 16}>
            {rulerUnit === 'ft' ? 'feet' : 'metres'}
          </text>
        </g>

        <Curvature info={info} x={x} />
        <Ends index={pathIndex} info={info} x={x} svg={svg} />
        <Contacts index={pathIndex} path={path} info={info} x={x} />
        {rig && <StripRig index={rigIndex} rig={rig} closed={info.closed} length={length} x={x} svg={svg} />}
        {rig && <WorstPlace rig={rig} length={length} x={x} width={width} />}
        <Ruler x={x} length={length} perUnit={perUnit} colour={roles.secondary} y={rows.ruler} />
        {rig && !rig.body && <PiecesHand index={rigIndex} length={length} x={x} svg={svg} />}
      </svg>
    </Box>
  )
}
