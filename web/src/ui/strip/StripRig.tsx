import { useTheme } from '@mui/material/styles'
import type { ScaleLinear } from 'd3-scale'
import type { Rig } from '../../core/page.generated'
import { flipsOf } from '../../scene/Comb'
import { pullPiece } from '../../scene/Pieces'
import { useBench } from '../../stores/bench'
import { useView } from '../../stores/prefs'
import { gutter } from '../fields/measure'
import { kindIn } from '../kinds/kinds'
import { Beads } from './Beads'
import { RollRow } from './RollRow'
import { local, rows } from './rows'
import { Sleeve } from './Sleeve'

/** What the strip's parts about the rig are given: its place in the scene, the path it stands on and the scale. */
interface OfRig {
  index: number
  rig: Rig
  closed: boolean
  length: number
  /** Distances along the path to pixels of the strip. */
  x: ScaleLinear<number, number>
  svg: React.RefObject<SVGSVGElement | null>
}

const usePieces = (rig: number) => useBench((b) => b.shown.find((p) => p.rig === rig))

/** The rig on its path: travel from the start mark to piece 1, its pieces or its body, roll, twist and flips. */
export function StripRig({ index, rig, closed, length, x, svg }: OfRig) {
  const { roles } = useTheme()
  const kind = kindIn(rig)
  const laid = useBench((b) => b.answer?.readout.rigs[index])
  const pieces = usePieces(index)
  const body = useBench((b) => b.shot.bodies[index])
  const hovered = useView((v) => v.hoveredPiece)
  return (
    <>
      {pieces?.distances[0] !== undefined && (
        <>
          <line
            x1={x(0)}
            x2={x(clamp(pieces.distances[0], length))}
            y1={rows.travel}
            y2={rows.travel}
            stroke={roles.orange}
            strokeWidth="3.5"
          />
          <line
            x1={x(clamp(pieces.distances[0], length))}
            x2={x(clamp(pieces.distances[0], length))}
            y1={rows.pieces}
            y2={rows.travel + 1.7}
            stroke={roles.orange}
            strokeWidth="1.3"
          />
        </>
      )}
      {pieces && <line x1={gutter} x2={x(length)} y1={rows.pieces} y2={rows.pieces} stroke={roles.rule} />}
      {body && <Sleeve rig={index} reach={body.reach} x={x} length={length} closed={closed} svg={svg} />}
      {kind.strip?.(rig, x, length)}
      {pieces && laid && (!body || kind.strip) && (
        <Beads rig={index} distances={pieces.distances} x={x} length={length} hovered={hovered} />
      )}

      {laid && (
        <RollRow
          rig={index}
          beads={rig.facing.rollAt ?? []}
          roll={laid.roll}
          twist={laid.twist}
          x={x}
          length={length}
          svg={svg}
        />
      )}
      {laid &&
        flipsOf(laid.comb).map((tooth) => {
          // A closed path's comb has no tooth at its end.
          const at = x((length * tooth) / (laid.comb.length / 6 - (closed ? 0 : 1)))
          return (
            <path key={tooth} d={`M${at} ${rows.roll - 10}l-4 -6h8z`} fill={roles.red} data-testid="strip-flip">
              <title>Up flips here</title>
            </path>
          )
        })}
    </>
  )
}

/** The place of the check that is looked at, where it is not inside. */
export function WorstPlace({ rig, length, x, width }: Pick<OfRig, 'rig' | 'length' | 'x'> & { width: number }) {
  const { roles } = useTheme()
  const shownCheck = useBench((b) =>
    b.checks.find((c) => c.id === b.shownCheck && c.rig === rig.id && c.state !== 'inside'),
  )
  if (!shownCheck?.where) return null
  const whereX = x(clamp(shownCheck.where.distance, length))
  const checkText = shownCheck.state === 'outside' ? roles.redText : roles.amberText
  return (
    <>
      <line x1={whereX} x2={whereX} y1={rows.pieces + 5} y2={rows.ruler} stroke={checkText} strokeWidth="1.2" />
      <circle cx={whereX} cy={rows.pieces} r="5.5" fill="none" stroke={checkText} strokeWidth="1.6" />
      <text
        x={Math.min(Math.max(whereX, gutter + 130), width - 120)}
        y={rows.marks - 1}
        textAnchor="middle"
        fontWeight="500"
        fill={checkText}
      >
        {rig.body ? '' : `piece ${shownCheck.where.piece}, `}
        {shownCheck.word}
      </text>
    </>
  )
}

/** What the pointer meets over the pieces: the nearest is pointed at, and pulled along the path. */
export function PiecesHand({ index, length, x, svg }: Pick<OfRig, 'index' | 'length' | 'x' | 'svg'>) {
  const pieces = usePieces(index)
  if (!pieces) return null
  return (
    <rect
      x={gutter - 8}
      y={rows.pieces - 9}
      width={x(length) - gutter + 16}
      height={18}
      fill="transparent"
      style={{ cursor: 'grab', touchAction: 'none' }}
      data-testid="strip-pieces"
      onPointerMove={(e) => useView.getState().hoverPiece(nearest(pieces.distances, x.invert(local(svg, e.clientX))))}
      onPointerLeave={() => useView.getState().hoverPiece(null)}
      onPointerDown={(e) => {
        if (e.button !== 0) return
        e.preventDefault()
        const at = x.invert(local(svg, e.clientX))
        pullPiece(index, nearest(pieces.distances, at), e, (cx) => x.invert(local(svg, cx)))
      }}
    >
      <title>Pull a piece along the path</title>
    </rect>
  )
}

const clamp = (s: number, length: number) => Math.min(Math.max(s, 0), length)

function nearest(distances: Float64Array, at: number): number {
  let best = 0
  for (let i = 1; i < distances.length; i++) {
    if (Math.abs(distances[i]! - at) < Math.abs(distances[best]! - at)) best = i
  }
  return best
}
