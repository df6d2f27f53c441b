import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import { useTheme } from '@mui/material/styles'
import { chosenCount, moved, type Chosen } from '../../core/keys'
import { type Slot } from '../../core/slots'
import { isKeyed, type Key, type Value } from '../../core/value'
import { useBench } from '../../stores/bench'
import { Choice, Pick } from '../fields/fields'
import type { GraphMode } from './graphed'
import { keyShapes } from '../fields/EndsSelect'
import { ManyKeys, OneKey } from './ChosenKeys'

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
  const keys = { slots, chosen, setChosen, change, picked }
  const lines = slots.filter((s) => isKeyed(s.get(doc)))
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
      {count === 1 && picked.length === 1 && <OneKey {...keys} />}
      {count > 1 && <ManyKeys {...keys} />}
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
