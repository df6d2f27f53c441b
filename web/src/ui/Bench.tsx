import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import CircularProgress from '@mui/material/CircularProgress'
import { useTheme } from '@mui/material/styles'
import { useEffect, useState } from 'react'
import { Link, useParams } from 'react-router'
import { Group, Panel, Separator, useDefaultLayout } from 'react-resizable-panels'
import { View } from '../scene/View'
import { useBench } from '../stores/bench'
import { openMenu } from '../stores/menu'
import { usePrefs, useView } from '../stores/prefs'
import { ConflictDialog } from './panels/ConflictDialog'
import { GaugeRail } from './panels/GaugeRail'
import { Graph } from './time/Graph'
import { Notice } from './Notice'
import { LengthStrip } from './strip/LengthStrip'
import { Rack } from './rack/Rack'
import { Recipe } from './recipe/Recipe'
import { useShortcuts } from './shortcuts'
import { ShortcutSheet } from './panels/ShortcutSheet'
import { TimeStrip } from './time/TimeStrip'
import { ThingMenu } from './ThingMenu'
import { SimulationBar } from './SimulationBar'
import { ToolHelp } from './ToolHelp'
import { TopBar } from './TopBar'

/** A right-click on a strip is on what it shows: the chosen thing. */
function menuOfChosen(e: React.MouseEvent) {
  const { selected } = useBench.getState()
  if (selected && !(e.target instanceof HTMLInputElement)) openMenu(selected, e)
}

/**
 * When what had the focus goes, such as a menu item or a button of what was chosen before, the focus goes to the
 * recipe, so that keys and screen readers go on from there.
 */
function useKeepFocus() {
  useEffect(() => {
    let waiting = 0
    const look = () => {
      window.cancelAnimationFrame(waiting)
      waiting = window.requestAnimationFrame(() => {
        if (document.activeElement !== document.body) return
        document.getElementById('recipe')?.focus({ preventScroll: true })
      })
    }
    look()
    document.addEventListener('focusout', look)
    const stop = useBench.subscribe((now, before) => {
      if (now.selected !== before.selected || now.panel !== before.panel || now.doc !== before.doc) look()
    })
    return () => {
      window.cancelAnimationFrame(waiting)
      document.removeEventListener('focusout', look)
      stop()
    }
  }, [])
}

/** The one page that does the work. */
export function Bench() {
  const { id = '' } = useParams()
  const open = useBench((b) => b.open)
  const close = useBench((b) => b.close)
  const doc = useBench((b) => b.doc)
  const [failed, setFailed] = useState('')
  const [sheet, setSheet] = useState(false)
  const { roles } = useTheme()
  useShortcuts(() => setSheet((s) => !s))

  useEffect(() => {
    useView.setState({ through: null }) // a camera of that name may be in this scene as well
    open(id).catch((e: unknown) => setFailed(e instanceof Error ? e.message : String(e)))
    return close
  }, [id, open, close])

  useEffect(() => {
    document.title = doc ? `${doc.name} · Bead` : 'Bead'
  }, [doc])

  // A film that is asked for in the address, as by the command line, is begun once the scene stands.
  const stands = useBench((b) => !!b.answer)
  useEffect(() => {
    const film = new URLSearchParams(window.location.search).get('film')
    if (!stands || !film) return
    // The view itself need not be fine then.
    useView.setState({ wantsFilm: JSON.parse(film) as object, measured: 'rough' })
    useBench.setState({ panel: 'film' })
  }, [stands])

  const graph = usePrefs((p) => p.graph)
  const folded = usePrefs((p) => p.folded)
  const across = useDefaultLayout({
    id: 'bench-across',
    panelIds: folded.recipe ? ['right'] : ['left', 'right'],
    storage: localStorage,
  })
  const panelIds = ['view', ...(folded.strip ? [] : ['length']), ...(graph ? ['graph'] : []), 'time']
  const down = useDefaultLayout({
    id: `bench-down${graph ? '-graph' : ''}${folded.strip ? '-bare' : ''}`,
    panelIds,
    storage: localStorage,
  })
  useKeepFocus()
  // What the rows need; in a lower window, as at 200 % zoom, they are scrolled.
  const least = 160 + 1 + 96 + (folded.strip ? 0 : 159) + (graph ? 151 : 0)

  const middle = { height: '100%', display: 'grid', placeItems: 'center', background: roles.paper }
  if (failed) {
    return (
      <Box sx={middle}>
        <Box sx={{ textAlign: 'center' }}>
          <Box sx={{ typography: 'h2', mb: 1 }}>{failed}</Box>
          <Button component={Link} to="/" variant="contained">
            To the scenes
          </Button>
        </Box>
      </Box>
    )
  }
  if (!doc) {
    return (
      <Box sx={middle}>
        <CircularProgress size={28} aria-label="Opening the scene" />
      </Box>
    )
  }
  return (
    <Box sx={{ height: '100%', display: 'flex', flexDirection: 'column', background: roles.paper, overflow: 'hidden' }}>
      <TopBar onHelp={() => setSheet(true)} />
      <Box component="main" sx={{ flex: 1, minHeight: 0, display: 'flex' }}>
        <Group orientation="horizontal" style={{ flex: 1, minHeight: 0 }} {...across}>
          {!folded.recipe && (
            <>
              <Panel id="left" defaultSize={304} minSize={260} maxSize={460} groupResizeBehavior="preserve-pixel-size">
                <Box sx={{ height: '100%', display: 'flex', flexDirection: 'column', minHeight: 0 }}>
                  <Rack />
                  <Recipe />
                </Box>
              </Panel>
              <Edge upright />
            </>
          )}
          <Panel id="right" minSize={480}>
            <Box sx={{ height: '100%', overflowY: 'auto' }}>
              <Group orientation="vertical" style={{ height: '100%', minHeight: least }} {...down}>
                <Panel id="view" minSize={160}>
                  <Box
                    sx={{
                      height: '100%',
                      display: 'grid',
                      gridTemplateColumns: folded.checks ? '1fr' : '1fr 132px',
                      minHeight: 0,
                    }}
                  >
                    <View>
                      <ToolHelp />
                      <SimulationBar />
                      <Notice />
                    </View>
                    {!folded.checks && <GaugeRail />}
                  </Box>
                </Panel>
                {!folded.strip && (
                  <>
                    <Edge />
                    <Panel
                      id="length"
                      defaultSize={160}
                      minSize={158}
                      maxSize={162}
                      groupResizeBehavior="preserve-pixel-size"
                    >
                      <Box sx={{ height: '100%' }} onContextMenu={menuOfChosen}>
                        <LengthStrip />
                      </Box>
                    </Panel>
                  </>
                )}
                {graph && (
                  <>
                    <Edge />
                    <Panel
                      id="graph"
                      defaultSize={190}
                      minSize={150}
                      maxSize={420}
                      groupResizeBehavior="preserve-pixel-size"
                    >
                      <Box sx={{ height: '100%' }} onContextMenu={menuOfChosen}>
                        <Graph />
                      </Box>
                    </Panel>
                  </>
                )}
                <Edge />
                <Panel id="time" defaultSize={96} minSize={96} maxSize={98} groupResizeBehavior="preserve-pixel-size">
                  <TimeStrip />
                </Panel>
              </Group>
            </Box>
          </Panel>
        </Group>
      </Box>
      <ShortcutSheet open={sheet} onClose={() => setSheet(false)} />
      <ThingMenu />
      <ConflictDialog />
    </Box>
  )
}

function Edge({ upright }: { upright?: boolean }) {
  const { roles } = useTheme()
  return (
    <Separator
      style={{ [upright ? 'width' : 'height']: 1, background: roles.rule, outlineOffset: 1 }}
      aria-label={upright ? 'Width of the recipe' : 'Height of the strips'}
    />
  )
}
