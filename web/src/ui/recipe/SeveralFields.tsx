import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import { useTheme } from '@mui/material/styles'
import { useState } from 'react'
import { listOf } from '../../core/remove'
import { commonFields, type Common } from '../../core/several'
import { useBench } from '../../stores/bench'
import { chosenThings } from '../../stores/chosen'
import { Choice, Pair } from '../fields/fields'
import { NumberField } from '../fields/NumberField'
import { duplicateThings, kindWord, removeThings } from '../things'
import { Column, FaultNote } from './RecipeParts'

/** What several chosen things have in common, edited together: set, or added to each. */
export function SeveralFields() {
  const { roles } = useTheme()
  const doc = useBench((b) => b.doc)!
  const selected = useBench((b) => b.selected)!
  const also = useBench((b) => b.also)
  const preview = useBench((b) => b.preview)
  const edit = useBench((b) => b.edit)
  const base = useBench((b) => b.base)
  const [how, setHow] = useState<'set' | 'add'>('set')
  const { kind } = selected
  const ids = [selected.id, ...also]
  const names = ids.map((id) => listOf(doc, kind).find((x) => x.id === id)?.name ?? '')
  const fields = commonFields(doc, kind, ids)
  const what = `${ids.length} ${kindWord[kind]}s`
  const apply = (c: Common, v: number) => (d: typeof doc) => {
    for (const id of ids) c.put(d, id, how === 'set' ? v : Number(((c.get(base!, id) ?? 0) + v).toPrecision(12)))
  }
  return (
    <Column>
      <Box sx={{ px: 2, pt: 1.25, pb: 2, display: 'grid', gap: 1.25 }}>
        <Box>
          <Box component="h2" sx={{ typography: 'h2', m: 0, fontSize: 15 }}>
            {what}
          </Box>
          <Box sx={{ color: roles.secondary, fontSize: 11 }}>{names.join(', ')}</Box>
        </Box>
        <FaultNote />
        <Choice
          label="A number that is typed"
          value={how}
          options={['set', 'add'] as const}
          names={{ set: 'is set in all', add: 'is added to each' }}
          onChange={setHow}
        />
        <Pair>
          {fields.map((c) => {
            const all = ids.map((id) => c.get(doc, id)!)
            const same = all.every((v) => Math.abs(v - all[0]!) < 1e-12)
            return (
              <NumberField
                key={c.key + how}
                label={how === 'add' ? `${c.label}, more by` : same ? c.label : `${c.label}, differs`}
                quantity={c.quantity}
                value={how === 'add' ? 0 : all[0]!}
                onPreview={how === 'set' ? (v) => preview(apply(c, v)) : undefined}
                onCommit={(v) =>
                  edit(`${how === 'set' ? 'set' : 'add to'} ${c.label.toLowerCase()} of ${what}`, apply(c, v))
                }
              />
            )
          })}
        </Pair>
        {fields.length === 0 && <Box sx={{ color: roles.secondary }}>They have no number in common.</Box>}
        <Pair>
          <Button variant="outlined" onClick={() => duplicateThings()}>
            Duplicate them
          </Button>
          <Button variant="outlined" color="inherit" onClick={() => removeThings(chosenThings())}>
            Delete them
          </Button>
        </Pair>
      </Box>
    </Column>
  )
}
