import ChevronLeft from '@mui/icons-material/ArrowLeft'
import ChevronRight from '@mui/icons-material/ArrowRight'
import Pause from '@mui/icons-material/Pause'
import PlayArrow from '@mui/icons-material/PlayArrow'
import SkipNext from '@mui/icons-material/SkipNext'
import SkipPrevious from '@mui/icons-material/SkipPrevious'
import Box from '@mui/material/Box'
import IconButton from '@mui/material/IconButton'
import { useTheme } from '@mui/material/styles'
import type { Document } from '../../core/page.generated'
import { useBench } from '../../stores/bench'
import { useClock } from '../../stores/clock'
import { NumberField } from '../fields/NumberField'
import { ample, roomy, some } from './room'
import { Rule } from './TimeExtent'

/** Play, single frames, the ends of the range, and the frame at the play head. */
export function Transport({ doc }: { doc: Document }) {
  const { roles } = useTheme()
  const playing = useClock((c) => c.playing)
  const frame = useClock((c) => c.frame)
  const clock = useClock.getState()
  const small = { width: 28, height: 28 }
  return (
    <>
      <IconButton
        aria-label="First frame"
        title="First frame (Home)"
        sx={{ ...small, ...roomy }}
        onClick={() => clock.goTo(doc.range.first)}
      >
        <SkipPrevious sx={{ fontSize: 18 }} />
      </IconButton>
      <IconButton
        aria-label="One frame back"
        title="One frame back (←)"
        sx={{ ...small, ...some }}
        onClick={() => clock.step(-1)}
      >
        <ChevronLeft sx={{ fontSize: 22 }} />
      </IconButton>
      <IconButton
        aria-label={playing ? 'Pause' : 'Play'}
        title="Play or pause (Space)"
        onClick={() => clock.toggle()}
        sx={{
          ...small,
          borderRadius: '50%',
          background: roles.ink,
          color: roles.paper,
          '&:hover': { background: roles.kelp },
        }}
      >
        {playing ? <Pause sx={{ fontSize: 18 }} /> : <PlayArrow sx={{ fontSize: 20 }} />}
      </IconButton>
      <IconButton
        aria-label="One frame on"
        title="One frame on (→)"
        sx={{ ...small, ...some }}
        onClick={() => clock.step(1)}
      >
        <ChevronRight sx={{ fontSize: 22 }} />
      </IconButton>
      <IconButton
        aria-label="Last frame"
        title="Last frame (End)"
        sx={{ ...small, ...roomy }}
        onClick={() => clock.goTo(doc.range.last)}
      >
        <SkipNext sx={{ fontSize: 18 }} />
      </IconButton>
      <Rule />
      <Box component="span" sx={ample}>
        Frame
      </Box>
      <NumberField
        label="Frame"
        hideLabel
        value={frame}
        quantity="frame"
        width={58}
        colour={roles.orangeText}
        onCommit={(v) => {
          const { first, last } = doc.range
          clock.goTo(Math.min(Math.max(v, first), last))
          if (v < first || v > last)
            useBench
              .getState()
              .say(`Frame ${v} lies beyond the range, ${first} to ${last}: make the range longer to go there.`)
        }}
      />
    </>
  )
}
