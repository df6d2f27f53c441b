import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import { useTheme } from '@mui/material/styles'
import { chosenCount, moved, scaledHandles, type Chosen } from '../../core/keys'
import { type Slot } from '../../core/slots'
import { isKeyed, type Key, type Value } from '../../core/value'
import { useBench } from '../../stores/bench'
import { Choice, Pick } from '../fields/fields'
import type { GraphMode } from './graphed'
import { keyShapes } from '../fields/EndsSelect'
import { NumberField } from '../fields/NumberField'

/** The graph's line of tools: what is chosen, as numbers, and what can be done with it. */
export function GraphTools({
  slots,
  chosen,
  setChosen,
  change,
  mode,
  modes,
  setMode,
  fit,
  copy,
  paste,
  takeOut,
  present,
}: {
  slots: Slot[]
  chosen: Chosen
  setChosen: (c: Chosen) => void
  change: (how: 'preview' | 'edit', label: string, put: (m: string) => Value | null) => boolean
  mode: GraphMode
  modes: readonly GraphMode[]
  setMode: (m: GraphMode) => void
  fit: () => void
  copy: () => void
  paste: () => void
  takeOut: () => void
  present: (m: string) => number
}) {
  const { roles } = useTheme()
  const count = chosenCount(chosen)
  const doc = useBench((b) => b.doc)!
  const at = (m: string) => slots.find((s) => s.key === m)!
  const picked = slots.flatMap((s) => {
    const v = s.get(doc)
    return isKeyed(v)
      ? v.keys.filter((k) => chosen[s.key]?.includes(k.frame)).map((k) => [s.key, k] as [string, Key])
      : []
  })
  const one = count === 1 ? picked[0] : undefined
  const from = Math.min(...picked.map(([, k]) => k.frame))
  const lines = slots.filter((s) => isKeyed(s.get(doc)))
  const clash = () => useBench.getState().say('Two keys of one value cannot stand on one frame: nothing was changed.')
  const frames = (to: (f: number) => number) =>
    Object.fromEntries(slots.map((s) => [s.key, (chosen[s.key] ?? []).map(to)])) as Chosen
  const shape =
    picked.length && picked.every(([, k]) => (k.shape ?? 'straight') === (picked[0]![1].shape ?? 'straight'))
  const constant = () =>
    useBench.getState().edit('make the values constant', (d) => {
      for (const s of count ? slots.filter((f) => chosen[f.key]?.length) : lines) s.put(d, present(s.key))
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
      <Box sx={{ width: modes.length > 2 ? 176 : 116 }}>
        <Choice bare label="What is shown" value={mode} options={modes} onChange={setMode} />
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
              if (change('edit', 'move a key', (m) => moved(at(m).get(doc), chosen[m]!, () => ({ frame: v })))) {
                setChosen({ [one[0]]: [v] })
              } else clash()
            }}
          />
          <NumberField
            hideLabel
            label="Value of the chosen key"
            value={one[1].value}
            quantity={at(one[0]).quantity}
            width={96}
            onPreview={(v) => change('preview', '', (m) => moved(at(m).get(doc), chosen[m]!, () => ({ value: v })))}
            onCommit={(v) =>
              change('edit', 'set a key', (m) => moved(at(m).get(doc), chosen[m]!, () => ({ value: v })))
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
                change('edit', 'shift keys', (m) => moved(at(m).get(doc), chosen[m]!, (k) => ({ frame: k.frame + by })))
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
              const put = (m: string) =>
                moved(at(m).get(doc), chosen[m]!, (o) => ({ frame: to(o.frame), ...scaledHandles(o, k, 1) }))
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
                moved(at(m).get(doc), chosen[m]!, (o) => ({ value: o.value * k, ...scaledHandles(o, 1, k) })),
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
              options={keyShapes}
              onChange={(v) =>
                change('edit', `make stretches ${v}`, (m) => moved(at(m).get(doc), chosen[m]!, () => ({ shape: v })))
              }
            />
          </Box>
          <Button onClick={copy} title="Ctrl C">
            Copy
          </Button>
          <Button onClick={takeOut} title="Delete">
            Remove
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
