import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import { setAt } from '../../core/value'
import { useBench } from '../../stores/bench'
import { useView } from '../../stores/prefs'

/** The presses that mend a check. */
export function Remedies({ id, rig }: { id: string; rig: string }) {
  const result = useBench((b) => b.checks.find((c) => c.id === id && c.rig === rig))
  const edit = useBench((b) => b.edit)
  const red = result?.id === 'loop' && result.state === 'outside'
  if (!result || (!result.remedies?.length && !red)) return null
  return (
    <Box sx={{ display: 'grid', gap: 0.75, mt: 0.5 }}>
      {(result.remedies ?? []).map((r, i) => (
        <Button
          key={i} // its figure may change while it is pressed: it stays the same button
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
      {red && (
        <>
          <Button variant="outlined" onClick={() => useView.setState({ wantsLoop: true })}>
            Find a loop
          </Button>
          <Button
            variant="outlined"
            title="It is meant to end with its range: there is then no loop check"
            onClick={() => edit('let the scene play once', (d) => void (d.plays = 'once'))}
          >
            It plays once
          </Button>
        </>
      )}
    </Box>
  )
}
