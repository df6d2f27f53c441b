import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import { useTheme } from '@mui/material/styles'
import type { Rig } from '../api/page.generated'
import {
  chosenCount,
  moved,
  movings,
  putValue,
  quantities,
  scaledHandles,
  valueOf,
  type Chosen,
  type Moving,
} from '../core/keys'
import { isKeyed, type Key, type Value } from '../core/value'
import { useBench } from '../stores/bench'
import { Choice, Pick } from './fields'
import type { GraphMode } from './Graph'
import { NumberField } from './NumberField'

const shapes = ['straight', 'eased', 'stepped', 'free'] as const

/** The graph's line of tools: what is chosen, as numbers, and what can be done with it. */
export function GraphTools({
  rig,
  index,
  chosen,
  setChosen,
  change,
  mode,
  setMode,
  fit,
  copy,
  paste,
  takeOut,
  present,
}: {
  rig: Rig
  index: number
  chosen: Chosen
  setChosen: (c: Chosen) => void
  change: (how: 'preview' | 'edit', label: string, put: (m: Moving) => Value | null) => boolean
  mode: GraphMode
  setMode: (m: GraphMode) => void
  fit: () => void
  copy: () => void
  paste: () => void
  takeOut: () => void
  present: Partial<Record<Moving, number>> | undefined
}) {
  const { roles } = useTheme()
  const count = chosenCount(chosen)
  const picked = movings.flatMap((m) => {
    const v = valueOf(rig, m)
    return isKeyed(v) ? v.keys.filter((k) => chosen[m]?.includes(k.frame)).map((k) => [m, k] as [Moving, Key]) : []
  })
  const one = count === 1 ? picked[0] : undefined
  const from = Math.min(...picked.map(([, k]) => k.frame))
  const lines = movings.filter((m) => isKeyed(valueOf(rig, m)))
  const clash = () => useBench.getState().say('Two keys of one value cannot stand on one frame: nothing was changed.')
  const frames = (to: (f: number) => number) =>
    Object.fromEntries(movings.map((m) => [m, (chosen[m] ?? []).map(to)])) as Chosen
  const shape =
    picked.length && picked.every(([, k]) => (k.shape ?? 'straight') === (picked[0]![1].shape ?? 'straight'))
  const constant = () =>
    useBench.getState().edit('make the values constant', (d) => {
      for (const m of count ? movings.filter((f) => chosen[f]?.length) : lines) {
        putValue(d.rigs[index]!, m, present?.[m] ?? 0)
      }
    })
  return (
    <Box
      sx={{
        display: 'flex',
        alignItems: 'center',
        gap: 1,
        px: 2,
        height: 34,
        flexShrink: 0,
        whiteSpace: 'nowrap',
        overflow: 'hidden',
        '& .MuiButton-root': { minHeight: 24, px: 0.75 },
      }}
    >
      <Box component="h3" sx={{ typography: 'h3', m: 0 }}>
        Graph
      </Box>
      <Box sx={{ width: 116 }}>
        <Choice label="What is shown" value={mode} options={['value', 'speed'] as const} onChange={setMode} />
      </Box>
      <Button onClick={fit} title="Fit all values (the wheel zooms)">
        Fit
      </Button>
      {count === 0 && (
        <Box component="span" sx={{ color: roles.secondary, fontSize: 11 }}>
          {lines.length > 0 ? 'Drag a box to choose keys.' : 'No keys.'}
        </Box>
      )}
      {one && (
        <>
          <span>Frame</span>
          <NumberField
            hideLabel
            label="Frame of the chosen key"
            value={one[1].frame}
            quantity="frame"
            width={60}
            onCommit={(v) => {
              if (change('edit', 'move a key', (m) => moved(valueOf(rig, m), chosen[m]!, () => ({ frame: v })))) {
                setChosen({ [one[0]]: [v] })
              } else clash()
            }}
          />
          <NumberField
            hideLabel
            label="Value of the chosen key"
            value={one[1].value}
            quantity={quantities[one[0]]}
            width={96}
            onPreview={(v) => change('preview', '', (m) => moved(valueOf(rig, m), chosen[m]!, () => ({ value: v })))}
            onCommit={(v) =>
              change('edit', 'set a key', (m) => moved(valueOf(rig, m), chosen[m]!, () => ({ value: v })))
            }
          />
        </>
      )}
      {count > 1 && (
        <>
          <span>{count} keys: shift</span>
          <NumberField
            hideLabel
            label="Shift the chosen keys"
            value={0}
            quantity="count"
            unit="f"
            width={58}
            onCommit={(v) => {
              const by = Math.round(v)
              if (
                change('edit', 'shift keys', (m) =>
                  moved(valueOf(rig, m), chosen[m]!, (k) => ({ frame: k.frame + by })),
                )
              ) {
                setChosen(frames((f) => f + by))
              } else clash()
            }}
          />
          <span>stretch</span>
          <NumberField
            hideLabel
            label="Stretch the chosen keys in time"
            value={1}
            quantity="plain"
            unit="×"
            width={58}
            min={0.001}
            onCommit={(k) => {
              const to = (f: number) => from + Math.round((f - from) * k)
              const put = (m: Moving) =>
                moved(valueOf(rig, m), chosen[m]!, (o) => ({ frame: to(o.frame), ...scaledHandles(o, k, 1) }))
              if (change('edit', 'stretch keys', put)) setChosen(frames(to))
              else clash()
            }}
          />
          <span>scale</span>
          <NumberField
            hideLabel
            label="Scale the chosen values"
            value={1}
            quantity="plain"
            unit="×"
            width={58}
            onCommit={(k) =>
              change('edit', 'scale keys', (m) =>
                moved(valueOf(rig, m), chosen[m]!, (o) => ({ value: o.value * k, ...scaledHandles(o, 1, k) })),
              )
            }
          />
        </>
      )}
      {count > 0 && (
        <>
          <Box sx={{ width: 92 }}>
            <Pick
              hideLabel
              label="Shape after the chosen keys"
              value={shape ? (picked[0]![1].shape ?? 'straight') : 'straight'}
              options={shapes}
              onChange={(v) =>
                change('edit', `make stretches ${v}`, (m) => moved(valueOf(rig, m), chosen[m]!, () => ({ shape: v })))
              }
            />
          </Box>
          <Button onClick={copy} title="Ctrl C">
            Copy
          </Button>
          <Button onClick={takeOut} title="Delete">
            Take out
          </Button>
        </>
      )}
      <Button onClick={paste} title="Ctrl V, at the play head">
        Paste
      </Button>
      {lines.length > 0 && (
        <Button onClick={constant} title="The values stay as they are at the play head">
          Make constant
        </Button>
      )}
    </Box>
  )
}
