import ExpandLess from '@mui/icons-material/ExpandLess'
import ExpandMore from '@mui/icons-material/ExpandMore'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import { useTheme } from '@mui/material/styles'
import { slotsOf } from '../../core/slots'
import { listOf } from '../../core/remove'
import { useBench } from '../../stores/bench'
import { chosenRig } from '../../stores/chosen'
import { usePrefs } from '../../stores/prefs'
import { useWidth } from '../fields/measure'
import { keyAll } from '../recipe/CarrierFields'
import { Frames } from './Frames'
import { some } from './room'
import { Extent, ExtentButton } from './TimeExtent'
import { Transport } from './Transport'
import { TravelAtFrame, TravelSelects } from './TravelAtFrame'

/** Play, scrub, range, keys and the loop. */
export function TimeStrip() {
  const { roles } = useTheme()
  const doc = useBench((b) => b.doc)
  const chosen = useBench((b) => chosenRig(b)?.rig)
  const index = useBench((b) => chosenRig(b)?.index ?? -1)
  const graph = usePrefs((p) => p.graph)
  const selected = useBench((b) => b.selected)
  const [ref, width] = useWidth<HTMLDivElement>(0)
  if (!doc) return null
  const slots = slotsOf(doc, selected?.kind, selected?.id)
  const selects = chosen && <TravelSelects rig={chosen} index={index} />
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
        <Transport doc={doc} />
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
        {/* Before the field: the bead that was pressed stays under the pointer. */}
        {width >= selectsNeed && selects}
        {chosen && <TravelAtFrame rig={chosen} index={index} />}
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

/** How wide the strip has to be for the range's fields, and for those of a key. */
const extentNeeds = 860
const selectsNeed = 640
