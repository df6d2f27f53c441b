import ChevronLeft from '@mui/icons-material/ArrowLeft'
import ChevronRight from '@mui/icons-material/ArrowRight'
import ExpandLess from '@mui/icons-material/ExpandLess'
import ExpandMore from '@mui/icons-material/ExpandMore'
import Pause from '@mui/icons-material/Pause'
import PlayArrow from '@mui/icons-material/PlayArrow'
import SkipNext from '@mui/icons-material/SkipNext'
import SkipPrevious from '@mui/icons-material/SkipPrevious'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import IconButton from '@mui/material/IconButton'
import MenuItem from '@mui/material/MenuItem'
import Popover from '@mui/material/Popover'
import Select from '@mui/material/Select'
import { useTheme } from '@mui/material/styles'
import { useState } from 'react'
import type { Document } from '../../core/page.generated'
import { slotsOf } from '../../core/slots'
import { listOf } from '../../core/remove'
import { leadOf } from '../../core/rigs'
import { isKeyed, playsOnce, type Keyed } from '../../core/value'
import { useBench } from '../../stores/bench'
import { chosenRig } from '../../stores/chosen'
import { useClock } from '../../stores/clock'
import { usePrefs } from '../../stores/prefs'
import { keyAll } from '../recipe/CarrierFields'
import { Frames } from './Frames'
import { EndsSelect, ShapeSelect } from '../fields/EndsSelect'
import { MovingField } from '../fields/MovingField'
import { NumberField } from '../fields/NumberField'
import { useWidth } from '../fields/measure'

/** Play, scrub, range, keys and the loop. */
export function TimeStrip() {
  const { roles } = useTheme()
  const playing = useClock((c) => c.playing)
  const frame = useClock((c) => c.frame)
  const clock = useClock.getState()
  const doc = useBench((b) => b.doc)
  const edit = useBench((b) => b.edit)
  const chosen = useBench((b) => chosenRig(b)?.rig)
  const index = useBench((b) => chosenRig(b)?.index ?? -1)
  const graph = usePrefs((p) => p.graph)
  const travel = useBench((b) => b.shown.find((p) => p.rig === index)?.travel)
  const selected = useBench((b) => b.selected)
  const [ref, width] = useWidth<HTMLDivElement>(0)
  if (!doc) return null
  const shownTravel = travel ?? 0
  const small = { width: 28, height: 28 }
  const value = chosen?.travel
  // The stretch that the play head is on begins with this key.
  const stretch = isKeyed(value ?? 0) ? (value as Keyed).keys.slice(0, -1).findLast((k) => k.frame <= frame) : undefined
  const slots = slotsOf(doc, selected?.kind, selected?.id)
  const selects = chosen && value !== undefined && isKeyed(value) && (
    <>
      {stretch && (
        <ShapeSelect
          shape={stretch.shape}
          frame={stretch.frame}
          onChange={(shape) =>
            edit(`${shape} after frame ${stretch.frame}`, (d) => {
              const v = d.rigs[index]!.travel
              if (isKeyed(v)) v.keys.find((k) => k.frame === stretch.frame)!.shape = shape
            })
          }
        />
      )}
      <EndsSelect
        ends={value.after ?? 'hold'}
        onChange={(after) =>
          edit(`${after} after the last key`, (d) => void (d.rigs[index]!.travel = { ...value, after }))
        }
      />
    </>
  )
  const owner = selected ? (listOf({ ...doc }, selected.kind).find((x) => x.id === selected.id)?.name ?? '') : ''
  return (
    <Box
      ref={ref}
      sx={{
        height: '100%',
        display: 'flex',
        flexDirection: 'column',
        overflow: 'hidden',
        containerType: 'inline-size',
      }}
    >
      <Box
        sx={{
          display: 'flex',
          alignItems: 'center',
          gap: 0.5,
          px: 2,
          height: 40,
          flexShrink: 0,
          whiteSpace: 'nowrap',
          overflowX: 'auto', // where there is no room at all, as in a page that is shown large
          scrollbarWidth: 'none',
          '& > *:not(.gives)': { flexShrink: 0 },
        }}
      >
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
        {width >= extentNeeds ? (
          <Extent doc={doc} />
        ) : (
          <ExtentButton doc={doc}>{width < selectsNeed && selects}</ExtentButton>
        )}
        <Box sx={{ flex: 1, minWidth: 4 }} />
        {slots.length > 0 && !chosen && (
          <Button
            onClick={() => keyAll(slots, `key ${owner}`)}
            title="Set keys of all its values at the play head"
            sx={{ minHeight: 26, px: 0.75, color: roles.brassText }}
          >
            Key {owner}
          </Button>
        )}
        {chosen && value !== undefined && (
          <>
            {/* Before the field: the bead that was pressed stays under the pointer. */}
            {width >= selectsNeed && selects}
            <Box
              component="span"
              className="gives"
              sx={{
                color: roles.secondary,
                overflow: 'hidden',
                textOverflow: 'ellipsis',
                minWidth: 0,
                // A few letters of the name would say nothing; the flag in the view tells it as well.
                ...(isKeyed(value) && { '@container (min-width: 861px) and (max-width: 1100px)': { display: 'none' } }),
              }}
            >
              {chosen.name} {leadOf(chosen) ? 'ahead' : 'travel'}
            </Box>
            <MovingField
              label="Travel at this frame"
              name="travel"
              hideLabel
              beadBeside
              value={value}
              present={shownTravel}
              quantity="distance"
              width={96}
              colour={roles.orangeText}
              onPreview={(v) => useBench.getState().preview((d) => void (d.rigs[index]!.travel = v))}
              onCommit={(v, label) => edit(label, (d) => void (d.rigs[index]!.travel = v))}
            />
          </>
        )}
        <Button
          aria-expanded={graph}
          onClick={() => usePrefs.getState().toggleGraph()}
          title="Values over time (G)"
          startIcon={graph ? <ExpandMore /> : <ExpandLess />}
          sx={{ minHeight: 26, px: 0.75, minWidth: 0, '& .MuiButton-startIcon': { mr: 0.25, ...some } }}
        >
          Graph
        </Button>
      </Box>
      <Frames />
    </Box>
  )
}

/** The range of frames, their rate, and what happens at the end. */
function Extent({ doc }: { doc: Document }) {
  const { roles } = useTheme()
  const edit = useBench((b) => b.edit)
  return (
    <>
      <Box component="span" sx={{ color: roles.secondary, ml: 0.5, ...ample }}>
        range
      </Box>
      <NumberField
        label="First frame of the range"
        hideLabel
        value={doc.range.first}
        quantity="count"
        width={56}
        max={doc.range.last}
        onCommit={(v) => edit('set the first frame', (d) => void (d.range.first = v))}
      />
      <Box component="span" sx={{ color: roles.secondary }}>
        to
      </Box>
      <NumberField
        label="Last frame of the range"
        hideLabel
        value={doc.range.last}
        quantity="count"
        width={56}
        min={doc.range.first}
        onCommit={(v) => edit('set the last frame', (d) => void (d.range.last = v))}
      />
      <Rule />
      <NumberField
        label="Frames a second"
        hideLabel
        value={doc.fps}
        quantity="plain"
        unit="fps"
        width={74}
        min={0.001}
        max={1000}
        onCommit={(v) => edit('set the frame rate', (d) => void (d.fps = v))}
      />
      <Rule />
      <PlaysSelect doc={doc} />
    </>
  )
}

/** The same behind a button, with what else has no room. */
function ExtentButton({ doc, children }: { doc: Document; children: React.ReactNode }) {
  const [at, setAt] = useState<Element | null>(null)
  return (
    <>
      <Button
        variant="outlined"
        color="inherit"
        aria-haspopup="dialog"
        aria-expanded={!!at}
        title="The range of frames, their rate, and what happens at its end"
        onClick={(e) => setAt(e.currentTarget)}
        sx={{ minHeight: 26, px: 0.75, fontWeight: 400 }}
      >
        {doc.range.first}–{doc.range.last}, {Number(doc.fps.toPrecision(5))} fps
      </Button>
      <Popover
        open={!!at}
        anchorEl={at}
        onClose={() => setAt(null)}
        anchorOrigin={{ vertical: 'top', horizontal: 'left' }}
        transformOrigin={{ vertical: 'bottom', horizontal: 'left' }}
        slotProps={{ paper: { sx: { display: 'flex', alignItems: 'center', flexWrap: 'wrap', gap: 0.5, p: 1 } } }}
      >
        <Extent doc={doc} />
        {children}
      </Popover>
    </>
  )
}

/** Whether the scene plays once or loops. Unless it is said, that follows from whether anything arrives or leaves. */
function PlaysSelect({ doc }: { doc: Document }) {
  const { roles } = useTheme()
  const plays = playsOnce(doc) ? 'once' : 'loops'
  return (
    <Select<'loops' | 'once'>
      variant="outlined"
      value={plays}
      title="What happens at the end of the range: a scene that plays once has no loop check"
      onChange={(e) =>
        useBench.getState().edit(e.target.value === 'once' ? 'let the scene play once' : 'let the scene loop', (d) => {
          d.plays = e.target.value
        })
      }
      inputProps={{ 'aria-label': 'At the end of the range' }}
      sx={{
        height: 26,
        fontSize: 12,
        flexShrink: 0,
        '& .MuiSelect-select': { py: 0, pl: 1 },
        '& fieldset': { borderColor: roles.border },
      }}
    >
      <MenuItem value="loops">loops</MenuItem>
      <MenuItem value="once">plays once</MenuItem>
    </Select>
  )
}

/**
 * What is left out where the strip is narrow, in this order: labels of what stands beside them, then buttons
 * that have a key.
 */
const ample = { '@container (max-width: 1100px)': { display: 'none' } }
const roomy = { '@container (max-width: 860px)': { display: 'none' } }
const some = { '@container (max-width: 520px)': { display: 'none' } }

/** How wide the strip has to be for the range's fields, and for those of a key. */
const extentNeeds = 860
const selectsNeed = 640

function Rule() {
  const { roles } = useTheme()
  return <Box sx={{ width: '1px', height: 16, mx: 1, background: roles.border, flexShrink: 0, ...ample }} />
}
