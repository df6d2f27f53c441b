import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Dialog from '@mui/material/Dialog'
import DialogActions from '@mui/material/DialogActions'
import DialogTitle from '@mui/material/DialogTitle'
import { useTheme } from '@mui/material/styles'
import { useState } from 'react'
import type { Starter } from '../../core/page.generated'
import { Choice, Pick } from '../fields/fields'
import { NumberField } from '../fields/NumberField'
import { PitchPick } from '../recipe/BeltFields'

/** What a starter asks before it makes a working rig. */
export function StarterDialog({
  starter,
  busy,
  error,
  onClose,
  onBegin,
}: {
  starter: Starter
  busy: boolean
  error: string
  onClose: () => void
  onBegin: (answers: Record<string, string>) => void
}) {
  const { roles } = useTheme()
  const [answers, setAnswers] = useState<Record<string, string>>({})
  return (
    <Dialog open onClose={onClose} slotProps={{ paper: { sx: { width: 400 } } }}>
      <DialogTitle sx={{ typography: 'h2', pb: 0.5 }}>{starter.name}</DialogTitle>
      <Box
        component="form"
        onSubmit={(e: React.FormEvent) => {
          e.preventDefault()
          onBegin(answers)
        }}
      >
        <Box sx={{ px: 3, pb: 1, display: 'grid', gap: 1.5 }}>
          <Box sx={{ color: roles.secondary }}>{starter.text} All of it can be changed later.</Box>
          {starter.questions?.map((q) => {
            const value = answers[q.id] ?? q.answer
            const set = (v: string) => setAnswers((a) => ({ ...a, [q.id]: v }))
            if (q.options?.length) {
              return q.options.every((o) => o.length < 12) ? (
                <Box key={q.id}>
                  <Box sx={{ fontSize: 11, color: roles.secondary, mb: '3px' }}>{q.text}</Box>
                  <Choice label={q.text} value={value} options={q.options} onChange={set} />
                </Box>
              ) : (
                <Pick key={q.id} label={q.text} value={value} options={q.options} onChange={set} />
              )
            }
            const field = (
              <NumberField
                label={q.text}
                value={Number(value)}
                quantity={q.unit === 'm' ? (Number(q.answer) < 0.1 ? 'length' : 'distance') : 'plain'}
                onCommit={(v) => set(String(v))}
              />
            )
            return q.id === 'pitch' ? (
              <Box key={q.id} sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1.5 }}>
                {field}
                <PitchPick value={Number(value)} onChange={(v) => set(String(v))} />
              </Box>
            ) : (
              <Box key={q.id}>{field}</Box>
            )
          })}
          {error && (
            <Box role="alert" sx={{ color: roles.redText, fontSize: 11 }}>
              {error}
            </Box>
          )}
        </Box>
        <DialogActions>
          <Button color="inherit" onClick={onClose}>
            Not now
          </Button>
          <Button type="submit" variant="contained" disabled={busy}>
            Begin
          </Button>
        </DialogActions>
      </Box>
    </Dialog>
  )
}
