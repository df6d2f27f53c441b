import { useTheme } from '@mui/material/styles'
import { playsOnce } from '../../core/value'
import { useBench } from '../../stores/bench'
import { chosenRig } from '../../stores/chosen'
import { timeRows as y } from './rows'

/** What the brace over the frames says of the loop, and whether one can be found. */
export function useBraceText() {
  const { roles } = useTheme()
  const doc = useBench((b) => b.doc)
  const rig = useBench((b) => chosenRig(b)?.rig)
  const index = useBench((b) => chosenRig(b)?.index ?? -1)
  const info = useBench((b) => b.answer?.readout.rigs[index])
  const loop = useBench((b) => b.checks.find((c) => c.id === 'loop' && c.rig === rig?.id))
  const count = doc ? doc.range.last - doc.range.first + 1 : 0
  const meets = loop?.state !== 'outside'
  const pitches =
    info && info.pitch > 0 && info.row ? Math.round((info.travelRange[1] - info.travelRange[0]) / info.pitch) : 0
  const once = !!doc && playsOnce(doc)
  const braceText = once
    ? `${count} f · plays once`
    : !loop
      ? `${count} f`
      : meets
        ? `${count} f${pitches ? ` · ${Math.abs(pitches)} ${Math.abs(pitches) === 1 ? 'pitch' : 'pitches'}` : ''} · loop meets`
        : `${count} f · loop ${loop.word}`
  const braceColour = once ? roles.slate : meets ? roles.kelp : roles.red
  const braceInk = once ? roles.secondary : meets ? roles.kelpText : roles.redText
  const find = rig && !once ? 'Find a loop' : ''
  // Half its width in pixels, from the length of its words.
  const half = braceText.length * 3.3 + find.length * 3 + (find ? 8 : 0) + 8
  return { says: braceText, find, half, colour: braceColour, ink: braceInk }
}

/** The brace from the first frame to the last; its words open what finds a loop. */
export function LoopBrace({
  says,
  from,
  to,
  words,
  onFind,
}: {
  says: ReturnType<typeof useBraceText>
  /** Pixels of the first and the last frame. */
  from: number
  to: number
  words: React.RefObject<SVGTextElement | null>
  /** Missing where there is no rig to find a loop for. */
  onFind?: (at: Element) => void
}) {
  const { roles } = useTheme()
  const mid = (from + to) / 2
  const { find, half } = says
  return (
    <>
      <path
        d={`M${from} ${y.brace + 6}v-4q0 -2 2 -2H${mid - half}M${mid + half} ${y.brace}H${to - 2}q2 0 2 2v4`}
        fill="none"
        stroke={says.colour}
        strokeWidth="1.4"
      />
      <text
        ref={words}
        x={mid}
        y={y.brace + 4}
        role={onFind ? 'button' : undefined}
        tabIndex={onFind ? 0 : undefined}
        aria-label={onFind ? `${says.says}${find}` : undefined}
        data-testid="loop-brace"
        style={{ cursor: onFind ? 'pointer' : 'default' }}
        onPointerDown={(e) => {
          if (!onFind) return
          e.stopPropagation()
          onFind(e.currentTarget)
        }}
        onKeyDown={(e) => e.key === 'Enter' && onFind?.(e.currentTarget)}
        textAnchor="middle"
        fontWeight="500"
        fill={says.ink}
        stroke={roles.paper}
        strokeWidth="4"
        paintOrder="stroke"
      >
        {says.says}
        {find && (
          <tspan dx={12} fill={roles.kelpText} style={{ textDecoration: 'underline' }}>
            {find}
          </tspan>
        )}
      </text>
    </>
  )
}
