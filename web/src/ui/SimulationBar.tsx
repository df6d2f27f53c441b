import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import LinearProgress from '@mui/material/LinearProgress'
import { useTheme } from '@mui/material/styles'
import { useBench } from '../stores/bench'

/** How far the simulation is for which frames wait, and how to stop it or go on. */
export function SimulationBar() {
  const { roles } = useTheme()
  const at = useBench((b) => b.simulating)
  const waits = useBench((b) => b.shot.waits)
  if (!at && !waits) return null
  return (
    <Box
      role="status"
      data-testid="simulating"
      sx={{
        position: 'absolute',
        right: 16,
        top: 56,
        width: 272,
        display: 'grid',
        gap: 0.5,
        px: 1.5,
        py: 1,
        borderRadius: '6px',
        background: roles.raised,
        border: `1px solid ${roles.rule}`,
        fontSize: 12,
      }}
    >
      {at && (
        <Box sx={{ display: 'flex', alignItems: 'center', gap: 1 }}>
          <Box sx={{ flex: 1 }}>
            {at.stopped ? 'Stopped at' : 'Simulating:'} {Math.floor((100 * at.done) / at.of)} %
            {!at.stopped && at.left >= 1 ? `, ${Math.ceil(at.left)} s left` : ''}
          </Box>
          <Button
            size="small"
            onClick={() => (at.stopped ? useBench.getState().goOnSimulating() : useBench.getState().stopSimulating())}
          >
            {at.stopped ? 'Go on' : 'Stop'}
          </Button>
        </Box>
      )}
      {at && <LinearProgress aria-label="Simulated" variant="determinate" value={(100 * at.done) / at.of} />}
      {waits && (
        <Box sx={{ color: roles.secondary, fontSize: 11 }}>
          This frame has not been simulated yet: the cloth is shown as if it followed its path.
        </Box>
      )}
    </Box>
  )
}
