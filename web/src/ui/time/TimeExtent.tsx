import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import MenuItem from '@mui/material/MenuItem'
import Popover from '@mui/material/Popover'
import Select from '@mui/material/Select'
import { useTheme } from '@mui/material/styles'
import { useState } from 'react'
import type { Document } from '../../core/page.generated'
import { playsOnce } from '../../core/value'
import { useBench } from '../../stores/bench'
import { NumberField } from '../fields/NumberField'
import { ample } from './room'

/** The range of frames, their rate, and what happens at the end. */
export function Extent({ doc }: { doc: Document }) {
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
export function ExtentButton({ doc, children }: { doc: Document; children: React.ReactNode }) {
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

/** Parts groups of fields in the strip. */
export function Rule() {
  const { roles } = useTheme()
  return <Box sx={{ width: '1px', height: 16, mx: 1, background: roles.border, flexShrink: 0, ...ample }} />
}
