import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Dialog from '@mui/material/Dialog'
import DialogActions from '@mui/material/DialogActions'
import DialogContent from '@mui/material/DialogContent'
import DialogTitle from '@mui/material/DialogTitle'
import { useTheme } from '@mui/material/styles'
import { useNavigate } from 'react-router'
import { useBench } from '../../stores/bench'

/** Two windows changed one scene: the person chooses; the other version stays in the history. */
export function ConflictDialog() {
  const gone = useBench((b) => b.save === 'gone')
  return gone ? <GoneDialog /> : <ChangedDialog />
}

/** The scene was deleted elsewhere: what is shown here can become a scene of its own. */
function GoneDialog() {
  const navigate = useNavigate()
  const keepAsNew = useBench((b) => b.keepAsNew)
  return (
    <Dialog open maxWidth="xs" aria-labelledby="gone-title">
      <DialogTitle id="gone-title" sx={{ typography: 'h2' }}>
        This scene was deleted in another window
      </DialogTitle>
      <DialogContent>
        What you see here can be kept as a new scene, with the edits that are not saved yet.
      </DialogContent>
      <DialogActions>
        <Button color="inherit" variant="outlined" onClick={() => void navigate('/')}>
          Let it go
        </Button>
        <Button variant="contained" onClick={() => void keepAsNew().then((id) => navigate(`/scenes/${id}`))}>
          Keep as a new scene
        </Button>
      </DialogActions>
    </Dialog>
  )
}

function ChangedDialog() {
  const { roles } = useTheme()
  const conflict = useBench((b) => b.conflict)
  const keepMine = useBench((b) => b.keepMine)
  const takeTheirs = useBench((b) => b.takeTheirs)
  const unsaved = useBench((b) => b.unsaved)
  return (
    <Dialog open={!!conflict} maxWidth="xs" aria-labelledby="conflict-title">
      <DialogTitle id="conflict-title" sx={{ typography: 'h2' }}>
        This scene was changed in another window
      </DialogTitle>
      <DialogContent>
        {conflict && (
          <Box>
            There it is at step “{conflict.undo || 'made'}”, saved {new Date(conflict.touched).toLocaleTimeString()}.
            {unsaved === 1 ? 'Your last edit here is' : `Your last ${unsaved} edits here are`} not saved yet.
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
