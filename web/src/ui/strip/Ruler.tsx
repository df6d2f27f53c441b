import { mono } from '../../look/theme'

/** Distances along the path in the scene's unit of length, the last one at the path's end. */
export function Ruler({
  x,
  length,
  perUnit,
  colour,
  y,
}: {
  x: (s: number) => number
  length: number
  perUnit: number
  colour: string
  y: number
}) {
  const pixels = x(length) - x(0)
  const wish = ((length / perUnit) * 72) / pixels
  const power = 10 ** Math.floor(Math.log10(wish))
  const step = ([1, 2, 5, 10].find((k) => k * power >= wish) ?? 10) * power
  const total = length / perUnit
  const marks: React.ReactNode[] = []
  for (let i = 0; i * step <= total * (1 + 1e-9); i++) {
    const at = x(i * step * perUnit)
    const crowded = pixels - (at - x(0)) < 34 && total - i * step > 1e-9
    marks.push(
      <g key={i}>
        <line x1={at} x2={at} y1={y} y2={y + 5} stroke={colour} />
        {!crowded && (
          <text x={at} y={y + 17} textAnchor="middle" fontFamily={mono} fill={colour}>
            {Number((i * step).toPrecision(6))}
          </text>
        )}
      </g>,
    )
  }
  let fine = ''
  for (let i = 0; i * (step / 10) <= total; i++) fine += `M${x(i * (step / 10) * perUnit).toFixed(1)} ${y}v3`
  return (
    <>
      <line x1={x(0)} x2={x(length)} y1={y} y2={y} stroke={colour} />
      <path d={fine} stroke={colour} strokeWidth="0.7" />
      {marks}
      <text x={x(length)} y={y + 17} textAnchor="middle" fontFamily={mono} fill={colour}>
        {Math.abs(total / step - Math.round(total / step)) < 1e-6 ? '' : Number(total.toFixed(2))}
      </text>
    </>
  )
}
