import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Dialog from '@mui/material/Dialog'
import DialogActions from '@mui/material/DialogActions'
import DialogContent from '@mui/material/DialogContent'
import DialogTitle from '@mui/material/DialogTitle'
import { useTheme } from '@mui/material/styles'
import { gestureList, shortcutList, thingKeys } from '../shortcuts'
import { mono } from '../../look/theme'

/** Keys and gestures, on one sheet. */
export function ShortcutSheet({ open, onClose }: { open: boolean; onClose: () => void }) {
  const { roles } = useTheme()
  const column = (title: string, rows: [string, string][], code: boolean) => (
    <Box>
      <Box sx={{ typography: 'h3', mb: 1 }}>{title}</Box>
      {rows.map(([what, does]) => (
        <Box
          key={what}
          sx={{
            display: 'grid',
            gridTemplateColumns: '112px 1fr',
            gap: 1.5,
            py: 0.5,
            borderTop: `1px solid ${roles.rule}`,
          }}
        >
          <Box sx={code ? { font: `500 12px/16px ${mono}` } : { fontWeight: 500 }}>{what}</Box>
          <Box sx={{ color: roles.secondary }}>{does}</Box>
        </Box>
      ))}
    </Box>
  )
  return (
    <Dialog open={open} onClose={onClose} maxWidth="md">
      <DialogTitle sx={{ typography: 'h2' }}>Keys and gestures</DialogTitle>
      <DialogContent tabIndex={0} sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 4, width: 760 }}>
        {column('Keys', shortcutList, true)}
        <Box>
          {column('Things', thingKeys, true)}
          <Box sx={{ mt: 2.5 }}>{column('Gestures', gestureList, false)}</Box>
        </Box>
      </DialogContent>
      <DialogActions>
        <Button variant="contained" onClick={onClose}>
          Close
        </Button>
      </DialogActions>
    </Dialog>
  )
}
