import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import { useTheme } from '@mui/material/styles'
import type { Document, Rig } from '../../core/page.generated'
import { useBench } from '../../stores/bench'
import { ColourField } from '../fields/ColourField'
import { Choice, Pair } from '../fields/fields'
import { Fold } from '../fields/Fold'
import { NumberField } from '../fields/NumberField'
import { Remove } from './MaterialFields'

type Tint = NonNullable<Rig['tints']>[number]
type How = 'one' | 'every' | 'along'

const how = (t: Tint): How => (t.along ? 'along' : t.every ? 'every' : 'one')

/** Colours of some of a rig's pieces, without a part of their own. */
export function TintFields({ rig, index }: { rig: Rig; index: number }) {
  const { roles } = useTheme()
  const edit = useBench((b) => b.edit)
  const preview = useBench((b) => b.preview)
  const tints = rig.tints ?? []
  const list = (d: Document) => (d.rigs[index]!.tints ??= [])
  return (
    <Fold title={tints.length ? `Tints: ${tints.length}` : 'Tints: none'} open={tints.length > 0}>
      {tints.map((t, k) => {
        const set = (label: string, to: (t: Tint) => void) => edit(label, (d) => to(list(d)[k]!))
        const number = (field: 'from' | 'every', label: string) => (
          <NumberField
            label={label}
            value={t[field] || 1}
            quantity="count"
            at={`rigs/*/tints/*/${field}`}
            min={1}
            onPreview={(v) => preview((d) => void (list(d)[k]![field] = Math.round(v)))}
            onCommit={(v) => set(`tint other pieces of ${rig.name}`, (t) => void (t[field] = Math.round(v)))}
          />
        )
        return (
          <Box
            key={k}
            role="group"
            aria-label={`Tint ${k + 1}`}
            sx={{ display: 'grid', gap: 1, pb: 1, borderBottom: `1px solid ${roles.rule}` }}
          >
            <ColourField
              label={`Tint ${k + 1}`}
              value={t.colour}
              onPreview={(v) => preview((d) => void (list(d)[k]!.colour = v))}
              onCommit={(v) => set(`tint ${rig.name}`, (t) => void (t.colour = v))}
              end={
                <Remove
                  label={`Take tint ${k + 1} out`}
                  onClick={() =>
                    edit(`take a tint out of ${rig.name}`, (d) => {
                      list(d).splice(k, 1)
                      if (!list(d).length) delete d.rigs[index]!.tints
                    })
                  }
                />
              }
            />
            <Choice
              label="Which pieces have it"
              value={how(t)}
              options={['one', 'every', 'along'] as const}
              names={{ one: 'one', every: 'every n-th', along: 'more and more' }}
              hints={{ along: 'None at the first piece, all of it at the last.' }}
              onChange={(v) =>
                set(`tint other pieces of ${rig.name}`, (t) => {
                  delete t.along
                  delete t.every
                  if (v === 'along') t.along = true
                  if (v === 'every') t.every = 2
                })
              }
            />
            {!t.along && (
              <Pair>
                {number('from', t.every ? 'Beginning with piece' : 'Piece')}
                {t.every ? number('every', 'Every') : null}
              </Pair>
            )}
          </Box>
        )
      })}
      <Button
        variant="outlined"
        onClick={() => edit(`tint a piece of ${rig.name}`, (d) => void list(d).push({ colour: '#D9572B' }))}
      >
        Add a tint
      </Button>
    </Fold>
  )
}
