import Contrast from '@mui/icons-material/Contrast'
import CheckCircle from '@mui/icons-material/CheckCircleOutlined'
import CloudOff from '@mui/icons-material/CloudOffOutlined'
import ErrorOutline from '@mui/icons-material/ErrorOutlined'
import ExpandMore from '@mui/icons-material/ExpandMore'
import Redo from '@mui/icons-material/Redo'
import Sync from '@mui/icons-material/Sync'
import Undo from '@mui/icons-material/Undo'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Divider from '@mui/material/Divider'
import IconButton from '@mui/material/IconButton'
import Menu from '@mui/material/Menu'
import MenuItem from '@mui/material/MenuItem'
import { useTheme } from '@mui/material/styles'
import { useQuery } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { Link, useNavigate } from 'react-router'
import { copyScene, historyQuery } from '../api/client'
import { folded } from '../core/history'
import { useBench } from '../stores/bench'
import { qualities, usePrefs, useView } from '../stores/prefs'
import { NameField, Pick } from './fields/fields'
import { unseen } from '../look/theme'
import { Mark, RoomIcon } from '../look/icons'
import { foldables } from './shortcuts'

/** Name, saving, undo, theme, help, and the way out. */
export function TopBar({ onHelp }: { onHelp: () => void }) {
  const { roles, palette } = useTheme()
  const doc = useBench((b) => b.doc)!
  const id = useBench((b) => b.id)
  const edit = useBench((b) => b.edit)
  const undo = useBench((b) => b.undo)
  const redo = useBench((b) => b.redo)
  const undoLabel = useBench((b) => b.undoLabel)
  const redoLabel = useBench((b) => b.redoLabel)
  const dirty = useBench((b) => b.doc !== b.kept)
  const panel = useBench((b) => b.panel)
  const quality = usePrefs((p) => p.quality)
  const measured = useView((v) => v.measured)
  const navigate = useNavigate()
  const [menu, setMenu] = useState<HTMLElement | null>(null)
  const [history, setHistory] = useState<HTMLElement | null>(null)
  const button = { width: 32, height: 32 }
  return (
    <Box
      component="header"
      sx={{
        height: 44,
        flexShrink: 0,
        display: 'flex',
        alignItems: 'center',
        px: 2,
        gap: 1,
        borderBottom: `1px solid ${roles.rule}`,
      }}
    >
      <Box component="h1" sx={unseen}>
        {useBench.getState().doc?.name}
      </Box>
      <Box
        component={Link}
        to="/"
        aria-label="Bead, to the scenes"
        title="To the scenes"
        sx={{
          display: 'flex',
          alignItems: 'center',
          gap: 0.75,
          color: roles.ink,
          textDecoration: 'none',
          borderRadius: '6px',
        }}
      >
        <Mark />
        <Box component="span" sx={{ typography: 'h1' }}>
          Bead
        </Box>
      </Box>
      <Box sx={{ width: '1px', height: 22, background: roles.border, mx: 1 }} />
      <NameField
        size={13}
        value={doc.name}
        label="Name of the scene"
        onCommit={(name) => edit(`rename the scene`, (d) => void (d.name = name))}
      />
      <IconButton
        aria-label="Scene menu"
        sx={{ width: 24, height: 24, ml: -1 }}
        onClick={(e) => setMenu(e.currentTarget)}
      >
        <ExpandMore sx={{ fontSize: 16 }} />
      </IconButton>
      <Menu anchorEl={menu} open={!!menu} onClose={() => setMenu(null)}>
        <Box sx={{ px: 2, py: 1, width: 200 }}>
          <Pick
            label="Small lengths in"
            value={doc.units ?? 'mm'}
            options={['mm', 'cm', 'm', 'in'] as const}
            onChange={(u) => edit(`show lengths in ${u}`, (d) => void (d.units = u))}
          />
        </Box>
        <Divider />
        <Box sx={{ px: 2, py: 1, width: 200 }}>
          <Pick
            label="Picture quality"
            value={quality}
            options={['automatic', ...qualities] as const}
            names={{ fine: 'fine: with shadows', plain: 'plain: no shadows', rough: 'rough: half as sharp' }}
            onChange={usePrefs.getState().setQuality}
          />
          {quality === 'automatic' && (
            <Box sx={{ mt: 0.5, fontSize: 11, color: roles.secondary }}>On this machine: {measured}</Box>
          )}
        </Box>
        <Divider />
        <MenuItem
          onClick={() => {
            setMenu(null)
            void copyScene(id).then((s) => navigate(`/scenes/${s.id}`))
          }}
        >
          Copy the scene
        </MenuItem>
        <MenuItem onClick={() => void navigate('/')}>All scenes</MenuItem>
      </Menu>
      <Saving />
      <Box sx={{ flex: 1 }} />
      <IconButton
        aria-label="Undo"
        title={undoLabel ? `Undo: ${undoLabel} (Ctrl+Z)` : 'Nothing to undo'}
        disabled={!undoLabel && !dirty}
        sx={button}
        onClick={undo}
      >
        <Undo sx={{ fontSize: 18 }} />
      </IconButton>
      <IconButton
        aria-label="Redo"
        title={redoLabel ? `Redo: ${redoLabel} (Ctrl+Shift+Z)` : 'Nothing to redo'}
        disabled={!redoLabel}
        sx={button}
        onClick={redo}
      >
        <Redo sx={{ fontSize: 18 }} />
      </IconButton>
      <Button
        color="inherit"
        sx={{ height: 32, minWidth: 0, px: 1, color: roles.secondary }}
        onClick={(e) => setHistory(e.currentTarget)}
      >
        History
      </Button>
      {history && <HistoryMenu anchor={history} close={() => setHistory(null)} />}
      <Box sx={{ width: '1px', height: 22, background: roles.border, mx: 0.5 }} />
      <IconButton
        aria-label={palette.mode === 'dark' ? 'Light theme' : 'Dark theme'}
        title={palette.mode === 'dark' ? 'Light theme' : 'Dark theme, for the night watch'}
        sx={button}
        onClick={() => usePrefs.getState().toggleDark(palette.mode === 'dark')}
      >
        <Contrast sx={{ fontSize: 18 }} />
      </IconButton>
      <RoomMenu button={button} />
      <IconButton
        aria-label="Keys and gestures"
        title="Keys and gestures (?)"
        sx={{ ...button, fontSize: 15, fontWeight: 600, fontFamily: 'inherit' }}
        onClick={onHelp}
      >
        ?
      </IconButton>
      <Button
        variant="contained"
        aria-pressed={panel === 'deliver'}
        sx={{ height: 32, px: 2, ml: 0.5, fontSize: 13, fontWeight: 600 }}
        onClick={() => useBench.setState({ panel: 'deliver' })}
      >
        Deliver
      </Button>
    </Box>
  )
}

/** Whether everything is kept, in words. */
function Saving() {
  const { roles } = useTheme()
  const save = useBench((b) => b.save)
  const savedAt = useBench((b) => b.savedAt)
  const connected = useBench((b) => b.connected)
  const unsaved = useBench((b) => b.unsaved)
  const trouble = useBench((b) => b.trouble)
  const safe = useBench((b) => b.safe)
  const [now, setNow] = useState(Date.now)
  useEffect(() => {
    const timer = setInterval(() => setNow(Date.now()), 5000)
    return () => clearInterval(timer)
  }, [])
  const ago = Math.max(0, Math.round((now - savedAt) / 1000))
  const since =
    ago < 5
      ? 'just now'
      : ago < 60
        ? `${ago} s ago`
        : ago < 3600
          ? `${Math.round(ago / 60)} min ago`
          : `${Math.round(ago / 3600)} h ago`
  const icon = { fontSize: 15 }
  const offline = save === 'offline' || !connected
  const bad = offline || save === 'refused' || save === 'conflict' || save === 'gone'
  const edits = unsaved === 1 ? '1 edit is' : `${unsaved} edits are`
  return (
    <Box
      role="status"
      data-save={save}
      title={offline && trouble ? trouble : undefined}
      sx={{
        display: 'flex',
        alignItems: 'center',
        gap: 0.5,
        ml: 1,
        color: bad ? roles.redText : roles.secondary,
        whiteSpace: 'nowrap',
      }}
    >
      {save === 'refused' ? (
        <>
          <ErrorOutline sx={icon} /> Not saved: see the note in the recipe
        </>
      ) : save === 'conflict' ? (
        <>
          <ErrorOutline sx={icon} /> Not saved: changed in another window
        </>
      ) : save === 'gone' ? (
        <>
          <ErrorOutline sx={icon} /> Not saved: deleted in another window
        </>
      ) : offline ? (
        <>
          <CloudOff sx={icon} />{' '}
          {trouble && connected ? 'The server’s disk is full or read-only' : 'The server does not answer'}
          {unsaved === 0
            ? '; edits will be kept in this browser'
            : safe
              ? `; ${edits} kept in this browser`
              : `; ${edits} in this window alone`}
        </>
      ) : save === 'saving' ? (
        <>
          <Sync sx={icon} /> Saving
        </>
      ) : (
        <>
          <CheckCircle sx={{ ...icon, color: roles.kelp }} /> Saved
          <Box component="span" sx={{ display: { xs: 'none', md: 'inline' } }}>
            {since}
          </Box>
        </>
      )}
    </Box>
  )
}

function HistoryMenu({ anchor, close }: { anchor: HTMLElement; close: () => void }) {
  const { roles } = useTheme()
  const id = useBench((b) => b.id)
  const revision = useBench((b) => b.revision)
  const goTo = useBench((b) => b.goTo)
  const { data } = useQuery(historyQuery(id, revision))
  return (
    <Menu anchorEl={anchor} open onClose={close} slotProps={{ paper: { sx: { maxHeight: 420, width: 400 } } }}>
      {folded(data ?? [])
        .slice(0, 200)
        .map((h) => (
          <MenuItem
            key={h.seq}
            selected={h.current}
            aria-current={h.current}
            onClick={() => {
              close()
              goTo(h.seq)
            }}
            sx={{ gap: 1 }}
          >
            <Box
              sx={{ flex: 1, overflow: 'hidden', textOverflow: 'ellipsis', fontWeight: h.current ? 600 : 400 }}
              title={h.text}
            >
              {h.text}
            </Box>
            {h.steps > 1 && <Box sx={{ fontSize: 11, color: roles.secondary }}>{h.steps}×</Box>}
            {h.current && <Box sx={{ fontSize: 11, fontWeight: 600, color: roles.kelpText }}>now</Box>}
            <Box sx={{ fontSize: 11, color: roles.secondary }}>
              {new Date(h.made).toLocaleTimeString([], { hour: '2-digit', minute: '2-digit' })}
            </Box>
          </MenuItem>
        ))}
    </Menu>
  )
}

/** What is folded away to give the view room. */
function RoomMenu({ button }: { button: object }) {
  const [at, setAt] = useState<HTMLElement | null>(null)
  const folded = usePrefs((p) => p.folded)
  const { roles } = useTheme()
  return (
    <>
      <IconButton
        aria-label="What is shown"
        title="What is shown: fold the recipe, the checks or the length strip away"
        aria-haspopup="menu"
        sx={button}
        onClick={(e) => setAt(e.currentTarget)}
      >
        <RoomIcon sx={{ fontSize: 18 }} />
      </IconButton>
      <Menu anchorEl={at} open={!!at} onClose={() => setAt(null)} slotProps={{ list: { dense: true } }}>
        {foldables.map(([what, name, key]) => (
          <MenuItem
            key={what}
            role="menuitemcheckbox"
            aria-checked={!folded[what]}
            onClick={() => usePrefs.getState().fold(what)}
          >
            <Box component="span" sx={{ width: 20, color: roles.kelpText }}>
              {folded[what] ? '' : '✓'}
            </Box>
            <Box component="span" sx={{ flex: 1, pr: 3 }}>
              {name}
            </Box>
            <Box component="span" sx={{ color: roles.secondary, fontSize: 11 }}>
              {key}
            </Box>
          </MenuItem>
        ))}
      </Menu>
    </>
  )
}
