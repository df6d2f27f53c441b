import MoreHoriz from '@mui/icons-material/MoreHoriz'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import IconButton from '@mui/material/IconButton'
import { useTheme } from '@mui/material/styles'
import { listOf, type Kind } from '../../core/remove'
import { useBench } from '../../stores/bench'
import { useView } from '../../stores/prefs'
import { NameField } from '../fields/fields'
import { kindWord } from '../things'

/** What the recipe stands in. */
export function Column({ children }: { children: React.ReactNode }) {
  return (
    <Box
      component="section"
      id="recipe"
      aria-label="Recipe"
      tabIndex={-1}
      sx={{
        flex: 1,
        minHeight: 0,
        overflowY: 'auto',
        overflowX: 'hidden',
        scrollPaddingTop: '44px', // what is focused comes out below a panel's head
        scrollbarWidth: 'thin',
        outline: 'none',
      }}
    >
      {children}
    </Box>
  )
}

/** The chosen thing's name, what it is, and what else can be done with it. */
export function Head({ kind, id, name, note }: { kind: Kind; id: string; name: string; note: string }) {
  const { roles } = useTheme()
  const edit = useBench((b) => b.edit)
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', gap: 1, px: 2, pt: 1.25, pb: 0.75 }}>
      <NameField
        value={name}
        label={`Name of the ${kindWord[kind]}`}
        onCommit={(to) => edit(`rename ${name}`, (d) => void (listOf(d, kind).find((x) => x.id === id)!.name = to))}
      />
      <Box component="span" sx={{ color: roles.secondary, flex: 1, whiteSpace: 'nowrap' }}>
        {note}
      </Box>
      <IconButton
        aria-label={`More for ${name}`}
        sx={{ width: 28, height: 24 }}
        onClick={(e) => {
          const { right, bottom } = e.currentTarget.getBoundingClientRect()
          useView.setState({ menu: { thing: { kind, id }, x: right - 180, y: bottom } })
        }}
      >
        <MoreHoriz sx={{ fontSize: 18 }} />
      </IconButton>
    </Box>
  )
}

/** What is wrong with the last edit; what is shown is the last that was right. */
export function FaultNote() {
  const { roles } = useTheme()
  const fault = useBench((b) => b.fault)
  const refused = useBench((b) => b.save === 'refused')
  if (!fault) return null
  return (
    <Box
      role="alert"
      sx={{ mx: 2, mb: 1, p: 1, borderRadius: '6px', background: roles.redTint, color: roles.redText, fontSize: 11 }}
    >
      <Box sx={{ fontWeight: 600 }}>This cannot be shown; the last picture stays and nothing is lost.</Box>
      {(fault.faults?.length ? fault.faults : [{ address: '', message: fault.detail }]).slice(0, 3).map((f) => (
        <Box key={f.address + f.message}>
          {f.address && <code>{f.address}: </code>}
          {f.message}
        </Box>
      ))}
      <Button
        size="small"
        color="inherit"
        disabled={!refused}
        sx={{ mt: 0.5, px: 0.5 }}
        onClick={() => useBench.getState().putBack()}
      >
        Put back what was there
      </Button>
    </Box>
  )
}
