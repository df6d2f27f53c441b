import { handleOf, isChosen } from '../../core/keys'
import { show, shownUnit } from '../../core/units'
import type { Key } from '../../core/value'
import type { Roles } from '../../look/theme'
import { useBench } from '../../stores/bench'
import { lineIn, namesIn, type Graphed } from './graphed'
import { pullHandle, pullKeys, type Hand } from './graphHand'
import { OnPlot, ValueScale } from './Plot'

/** The first value's scale. */
export function Scale({ g, roles }: { g: Graphed; roles: Roles }) {
  const first = g.shown[0]?.field
  if (!first) return null
  const { width, height } = g
  return (
    <ValueScale
      scale={g.scales[first]!}
      quantity={g.at(first).quantity}
      after={g.mode === 'speed' ? '/s' : ''}
      {...{ width, height, roles }}
    />
  )
}

/** The lines of the values that move, with their names at their ends. */
export function Curves({ g, roles }: { g: Graphed; roles: Roles }) {
  const names = namesIn(g)
  return (
    <>
      {g.shown.map((c) => {
        const [stroke, text] = g.colours(c.field, roles)
        return (
          <g key={c.field}>
            <path d={lineIn(g, c)} fill="none" stroke={stroke} strokeWidth="1.6" />
            <OnPlot x={g.width - 30} y={names[c.field]} textAnchor="end" fill={text} roles={roles}>
              {g.at(c.field).name}
            </OnPlot>
          </g>
        )
      })}
    </>
  )
}

/** The keys of a value, the chosen ones with their handles. */
export function Keys({
  g,
  m,
  roles,
  onMenu,
}: {
  g: Hand
  m: string
  roles: Roles
  onMenu: (e: React.MouseEvent, k: Key) => void
}) {
  const units = useBench((b) => b.doc?.units) ?? 'mm'
  const keys = g.keysOf(m)
  const [stroke] = g.colours(m, roles)
  const scale = g.scales[m]!
  const { quantity, name } = g.at(m)
  /** The sides on which a key has a handle: where the stretch there is free. */
  const sidesOf = (k: Key, i: number) =>
    (['in', 'out'] as const).filter((side) =>
      side === 'out' ? k.shape === 'free' && i < keys.length - 1 : i > 0 && keys[i - 1]!.shape === 'free',
    )
  return (
    <>
      {keys.map((k, i) => {
        const on = isChosen(g.chosen, m, k.frame)
        return (
          <g key={k.frame}>
            {on &&
              sidesOf(k, i).map((side) => {
                const h = handleOf(keys, i, side)
                const [hx, hy] = [g.x(k.frame + h[0]), scale(k.value + h[1])]
                return (
                  <g key={side}>
                    <line x1={g.x(k.frame)} y1={scale(k.value)} x2={hx} y2={hy} stroke={roles.slate} />
                    <circle
                      cx={hx}
                      cy={hy}
                      r={4}
                      fill={roles.slate}
                      style={{ cursor: 'grab' }}
                      data-testid={`graph-handle-${side}`}
                      onPointerDown={(e) => pullHandle(g, e, m, i, side)}
                    />
                  </g>
                )
              })}
            <circle
              cx={g.x(k.frame)}
              cy={scale(k.value)}
              r={on ? 5.5 : 4.6}
              fill={on ? roles.brass : roles.raised}
              stroke={on ? roles.brass : stroke}
              strokeWidth="1.8"
              style={{ cursor: 'move' }}
              data-testid={`graph-key-${m}`}
              data-frame={k.frame}
              onPointerDown={(e) => pullKeys(g, e, m, k)}
              onContextMenu={(e) => {
                e.preventDefault()
                e.stopPropagation()
                if (!on) g.setChosen({ [m]: [k.frame] })
                onMenu(e, k)
              }}
            >
              <title>
                {name} at frame {k.frame}: {show(k.value, quantity, units)} {shownUnit(quantity, units)}
              </title>
            </circle>
          </g>
        )
      })}
    </>
  )
}
