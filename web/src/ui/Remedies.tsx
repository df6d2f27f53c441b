import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import { setAt } from '../core/value'
import { useBench } from '../stores/bench'

/** The presses that mend a check. */
export function Remedies({ id, rig }: { id: string; rig: string }) {
  const result = useBench((b) => b.checks.find((c) => c.id === id && c.rig === rig))
  const edit = useBench((b) => b.edit)
  if (!result?.remedies?.length) return null
  return (
    <Box sx={{ display: 'grid', gap: 0.75, mt: 0.5 }}>
      {result.remedies.map((r) => (
        <Button
          key={r.label}
          variant="outlined"
          onClick={() =>
            edit(r.label, (d) => {
              for (const e of r.edits) setAt(d, e.path, e.value)
            })
          }
        >
          {r.label}
        </Button>
      ))}
    </Box>
  )
}
