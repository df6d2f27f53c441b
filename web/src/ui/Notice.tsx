import Button from '@mui/material/Button'
import Snackbar from '@mui/material/Snackbar'
import { useBench } from '../stores/bench'

/** Says in the view what came of the last action. It covers no field, and the view can be used through it. */
export function Notice() {
  const notice = useBench((b) => b.notice)
  const say = useBench((b) => b.say)
  return (
    <Snackbar
      open={!!notice}
      onClose={(_, why) => why !== 'clickaway' && say('')}
      autoHideDuration={12000}
      message={notice}
      anchorOrigin={{ vertical: 'top', horizontal: 'left' }}
      action={
        <Button color="inherit" onClick={() => say('')}>
          Close
        </Button>
      }
      sx={{
        '&&': { position: 'absolute', top: 56, left: 16, right: 'auto' },
        maxWidth: 'calc(100% - 320px)', // beside how far a simulation is
        pointerEvents: 'none',
        '& button': { pointerEvents: 'auto' },
        '& .MuiSnackbarContent-root': { flexWrap: 'nowrap', minWidth: 0 },
      }}
    />
  )
}
