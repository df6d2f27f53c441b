import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Dialog from '@mui/material/Dialog'
import DialogActions from '@mui/material/DialogActions'
import DialogContent from '@mui/material/DialogContent'
import DialogTitle from '@mui/material/DialogTitle'
import { useTheme } from '@mui/material/styles'
import { useBench } from '../stores/bench'

/** Two windows changed one scene: the person chooses; the other version stays in the history. */
export function ConflictDialog() {
  const { roles } = useTheme()
  const conflict = useBench((b) => b.conflict)
  const keepMine = useBench((b) => b.keepMine)
  const takeTheirs = useBench((b) => b.takeTheirs)
  return (
    <Dialog open={!!conflict} maxWidth="xs" aria-labelledby="conflict-title">
      <DialogTitle id="conflict-title" sx={{ typography: 'h2' }}>
        This scene was changed in another window
      </DialogTitle>
      <DialogContent>
        {conflict && (
          <Box>
            There it is at step “{conflict.undo || 'made'}”, saved {new Date(conflict.touched).toLocaleTimeString()}.
            Your last edit here is not saved yet.
            <Box sx={{ mt: 1, color: roles.secondary }}>
              If you keep this window’s version, the other one stays in the history, one undo away.
            </Box>
          </Box>
        )}
      </DialogContent>
      <DialogActions>
        <Button color="inherit" variant="outlined" onClick={takeTheirs}>
          Take the other version
        </Button>
        <Button variant="contained" onClick={keepMine}>
          Keep this window’s
        </Button>
      </DialogActions>
    </Dialog>
  )
}
