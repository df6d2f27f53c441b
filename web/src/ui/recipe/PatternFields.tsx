import Close from '@mui/icons-material/Close'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import IconButton from '@mui/material/IconButton'
import { useTheme } from '@mui/material/styles'
import { useState } from 'react'
import type { Document, Rig, Train } from '../../core/page.generated'
import { useBench } from '../../stores/bench'
import { Choice, Pick } from '../fields/fields'
import { NumberField } from '../fields/NumberField'

type Others = NonNullable<Train['others']>[number]

/** Pieces of other parts: every n-th, or chosen numbers. */
export function PatternFields({ rig, index }: { rig: Rig; index: number }) {
  const { roles } = useTheme()
  const edit = useBench((b) => b.edit)
  const parts = useBench((b) => b.doc?.parts) ?? []
  const info = useBench((b) => b.answer?.readout.rigs[index])
  const others = rig.train?.others ?? []
  const put = (label: string, change: (list: Others[], d: Document) => void) =>
    edit(label, (d) => {
      const train = d.rigs[index]!.train!
      change((train.others ??= []), d)
      if (train.others.length === 0) delete train.others
    })
  const other = parts.find((p) => p.id !== rig.part)
  return (
    <Box sx={{ borderTop: `1px solid ${roles.rule}`, pt: 1, display: 'grid', gap: 1 }}>
      {others.map((o, i) => (
        <Box key={i} role="group" aria-label={`Other pieces ${i + 1}`} sx={{ display: 'grid', gap: 0.75 }}>
          <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 24px', alignItems: 'end', gap: 0.75 }}>
            <Pick
              label="Of another part"
              value={o.part}
              options={parts.map((p) => p.id)}
              names={Object.fromEntries(parts.map((p) => [p.id, p.name]))}
              onChange={(v) => put('change the other part', (l) => void (l[i]!.part = v))}
            />
            <IconButton
              aria-label={`Remove other pieces ${i + 1}`}
              sx={{ width: 24, height: 26 }}
              onClick={() => put('make all pieces alike again', (l) => void l.splice(i, 1))}
            >
              <Close sx={{ fontSize: 16 }} />
            </IconButton>
          </Box>
          <Choice
            label="Which of them"
            value={o.every ? 'every' : 'chosen'}
            options={['every', 'chosen'] as const}
            names={{ every: 'every n-th', chosen: 'chosen numbers' }}
            onChange={(v) =>
              put(v === 'every' ? 'take every n-th' : 'choose numbers', (l) => {
                l[i] = v === 'every' ? { part: o.part, every: 2 } : { part: o.part, pieces: [1] }
              })
            }
          />
          {o.every ? (
            <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1.5 }}>
              <NumberField
                label="Every"
                at="rigs/*/train/others/*/every"
                value={o.every}
                quantity="count"
                min={1}
                onCommit={(v) => put('set every which', (l) => void (l[i]!.every = Math.round(v)))}
              />
              <NumberField
                label="First one"
                at="rigs/*/train/others/*/first"
                value={o.first ?? o.every}
                quantity="count"
                min={1}
                onCommit={(v) => put('set the first of them', (l) => void (l[i]!.first = Math.round(v)))}
              />
            </Box>
          ) : (
            <Numbers value={o.pieces ?? []} onCommit={(v) => put('choose numbers', (l) => void (l[i]!.pieces = v))} />
          )}
        </Box>
      ))}
      <Button
        variant="outlined"
        disabled={!other}
        title={other ? undefined : 'A second part is needed: add one in the rack'}
        onClick={() => put('alternate with another part', (l) => void l.push({ part: other!.id, every: 2 }))}
      >
        Alternate with another part
      </Button>
      {info && info.pattern > 1 && (
        <Box sx={{ fontSize: 11, color: roles.secondary }}>The pieces look the same again after {info.pattern}.</Box>
      )}
    </Box>
  )
}

/** Numbers in a row, such as 1, 7, 12. */
function Numbers({ value, onCommit }: { value: number[]; onCommit: (v: number[]) => void }) {
  const { roles } = useTheme()
  const [text, setText] = useState<string | null>(null)
  const say = useBench((b) => b.say)
  return (
    <Box
      component="input"
      aria-label="Numbers of the pieces"
      value={text ?? value.join(', ')}
      onChange={(e: React.ChangeEvent<HTMLInputElement>) => setText(e.target.value)}
      onKeyDown={(e: React.KeyboardEvent<HTMLInputElement>) => e.key === 'Enter' && e.currentTarget.blur()}
      onBlur={() => {
        if (text === null) return
        const list = [
          ...new Set(
            text
              .split(/[\s,;]+/)
              .filter(Boolean)
              .map(Number),
          ),
        ].sort((a, b) => a - b)
        if (list.length > 0 && list.every((n) => Number.isInteger(n) && n > 0)) onCommit(list)
        else say('Whole numbers from 1 on are accepted, with commas between them.')
        setText(null)
      }}
      sx={{
        height: 26,
        px: 1,
        font: 'inherit',
        color: roles.ink,
        background: roles.raised,
        border: `1px solid ${roles.border}`,
        borderRadius: '4px',
      }}
    />
  )
}
