import MoreHoriz from '@mui/icons-material/MoreHoriz'
import Box from '@mui/material/Box'
import IconButton from '@mui/material/IconButton'
import Menu from '@mui/material/Menu'
import MenuItem from '@mui/material/MenuItem'
import { useTheme } from '@mui/material/styles'
import { useState } from 'react'
import { Link } from 'react-router'
import { documentUrl, pictureUrl } from '../../api/client'
import type { SceneCard } from '../../core/page.generated'

/** A scene with its picture; its name is changed in place. */
export function Card({
  card,
  onRename,
  onCopy,
  onKeep,
  onDelete,
}: {
  card: SceneCard
  onRename: (name: string) => void
  onCopy: () => void
  /** Keeps it as a beginning, or no longer. */
  onKeep: () => void
  onDelete: () => void
}) {
  const { roles } = useTheme()
  const [menu, setMenu] = useState<{ left: number; top: number } | null>(null)
  const [naming, setNaming] = useState(false)
  const named = (name: string) => {
    setNaming(false)
    if (name.trim() && name.trim() !== card.name) onRename(name.trim())
  }
  return (
    <Box
      component="li"
      onContextMenu={(e) => {
        e.preventDefault()
        setMenu({ left: e.clientX, top: e.clientY })
      }}
      onKeyDown={(e) => {
        if (e.key === 'F2' && !card.unreadable) setNaming(true)
      }}
      sx={{
        position: 'relative',
        border: `1px solid ${roles.rule}`,
        borderRadius: '6px',
        overflow: 'hidden',
        background: roles.raised,
        '&:hover': { borderColor: roles.kelp },
      }}
    >
      <Box
        {...(card.unreadable ? {} : { component: Link, to: `/scenes/${card.id}` })}
        sx={{ display: 'block', color: 'inherit', textDecoration: 'none' }}
      >
        {card.unreadable ? (
          <Box sx={{ aspectRatio: '16 / 9', overflow: 'auto', p: 1.5, background: roles.sunken, fontSize: 11 }}>
            <Box sx={{ fontWeight: 600, color: roles.redText }}>This Bead cannot read this scene.</Box>
            <Box sx={{ overflowWrap: 'anywhere' }}>{card.unreadable}</Box>
          </Box>
        ) : (
          <Box
            component="img"
            src={pictureUrl(card.id, card.revision)}
            alt=""
            sx={{ display: 'block', width: '100%', aspectRatio: '16 / 9', background: roles.sunken }}
          />
        )}
        <Box sx={{ px: 1.5, py: 1.25, pr: 5 }}>
          <Box sx={{ typography: 'h3', overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap' }}>
            {card.name}
          </Box>
          <Box sx={{ color: roles.secondary, overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap' }}>
            {card.unreadable ? 'It can be saved as a file' : card.rigs.join(', ') || 'No rig yet'}
          </Box>
          <Box sx={{ color: roles.secondary, fontSize: 11, mt: 0.25 }}>
            {card.unreadable ? '' : `${card.frames} frames · `}
            {when(card.touched)}
          </Box>
        </Box>
      </Box>
      <IconButton
        aria-label={`More for ${card.name}`}
        onClick={(e) => {
          const { right, bottom } = e.currentTarget.getBoundingClientRect()
          setMenu({ left: right - 160, top: bottom })
        }}
        sx={{ position: 'absolute', right: 6, bottom: 30, width: 28, height: 28 }}
      >
        <MoreHoriz sx={{ fontSize: 18 }} />
      </IconButton>
      {naming && (
        <Box
          component="input"
          aria-label={`New name of ${card.name}`}
          autoFocus
          defaultValue={card.name}
          maxLength={60}
          onFocus={(e: React.FocusEvent<HTMLInputElement>) => e.target.select()}
          onBlur={(e: React.FocusEvent<HTMLInputElement>) => named(e.target.value)}
          onKeyDown={(e: React.KeyboardEvent<HTMLInputElement>) => {
            if (e.key === 'Enter') e.currentTarget.blur()
            if (e.key === 'Escape') setNaming(false)
          }}
          sx={{
            position: 'absolute',
            left: 8,
            right: 8,
            bottom: 52,
            height: 26,
            px: 0.5,
            border: `1px solid ${roles.kelp}`,
            borderRadius: '6px',
            background: roles.raised,
            color: roles.ink,
            typography: 'h3',
          }}
        />
      )}
      <Menu
        anchorReference="anchorPosition"
        anchorPosition={menu ?? undefined}
        open={!!menu}
        onClose={() => setMenu(null)}
        onClick={() => setMenu(null)}
      >
        {!card.unreadable && <MenuItem onClick={() => setNaming(true)}>Rename</MenuItem>}
        {!card.unreadable && <MenuItem onClick={onCopy}>Copy</MenuItem>}
        {!card.unreadable && (
          <MenuItem onClick={onKeep}>{card.beginning ? 'Keep as a scene only' : 'Keep as a beginning too'}</MenuItem>
        )}
        <MenuItem component="a" href={documentUrl(card.id)} download>
          Save the document
        </MenuItem>
        <MenuItem onClick={onDelete}>Delete</MenuItem>
      </Menu>
    </Box>
  )
}

function when(iso: string): string {
  const then = new Date(iso)
  const minutes = (Date.now() - then.getTime()) / 60000
  if (minutes < 1) return 'touched just now'
  if (minutes < 60) return `touched ${Math.round(minutes)} min ago`
  if (minutes < 60 * 20) return `touched ${Math.round(minutes / 60)} h ago`
  return `touched ${then.toLocaleDateString()}`
}
