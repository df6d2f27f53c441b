import MoreHoriz from '@mui/icons-material/MoreHoriz'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import IconButton from '@mui/material/IconButton'
import Menu from '@mui/material/Menu'
import MenuItem from '@mui/material/MenuItem'
import { useTheme } from '@mui/material/styles'
import { useState } from 'react'
import type { Document } from '../../core/page.generated'
import { dependants, listOf, remove, type Kind } from '../../core/remove'
import { freeId, freeName } from '../../core/value'
import { useBench } from '../../stores/bench'
import { NameField } from '../fields/fields'

/** What the recipe stands in. */
export function Column({ children }: { children: React.ReactNode }) {
  return (
    <Box sx={{ flex: 1, minHeight: 0, overflowY: 'auto', overflowX: 'hidden', scrollbarWidth: 'thin' }}>{children}</Box>
  )
}

/** The chosen thing's name, what it is, and what else can be done with it. */
export function Head({ kind, id, name, note }: { kind: Kind; id: string; name: string; note: string }) {
  const { roles } = useTheme()
  const edit = useBench((b) => b.edit)
  const select = useBench((b) => b.select)
  const [menu, setMenu] = useState<HTMLElement | null>(null)
  const list = (d: Document) => listOf(d, kind)
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', gap: 1, px: 2, pt: 1.25, pb: 0.75 }}>
      <NameField
        value={name}
        label={`Name of the ${kind}`}
        onCommit={(to) => edit(`rename ${name}`, (d) => void (list(d).find((x) => x.id === id)!.name = to))}
      />
      <Box component="span" sx={{ color: roles.secondary, flex: 1, whiteSpace: 'nowrap' }}>
        {note}
      </Box>
      <IconButton
        aria-label={`More for ${name}`}
        sx={{ width: 28, height: 24 }}
        onClick={(e) => setMenu(e.currentTarget)}
      >
        <MoreHoriz sx={{ fontSize: 18 }} />
      </IconButton>
      <Menu anchorEl={menu} open={!!menu} onClose={() => setMenu(null)}>
        <MenuItem
          onClick={() => {
            setMenu(null)
            let made = ''
            edit(`copy ${name}`, (d) => {
              const all = list(d)
              const copy = structuredClone(
                JSON.parse(JSON.stringify(all.find((x) => x.id === id))) as { id: string; name: string },
              )
              copy.name = freeName(all, name)
              made = copy.id = freeId(all, copy.name)
              all.push(copy)
            })
            select({ kind, id: made })
          }}
        >
          Copy
        </MenuItem>
        <MenuItem
          onClick={() => {
            setMenu(null)
            edit(`delete ${name}`, (d) => remove(d, kind, id))
            const first = useBench.getState().doc?.rigs[0]
            select(first ? { kind: 'rig', id: first.id } : null)
          }}
        >
          <DeleteText kind={kind} id={id} />
        </MenuItem>
      </Menu>
    </Box>
  )
}

function DeleteText({ kind, id }: { kind: Kind; id: string }) {
  const users = dependants(useBench.getState().doc!, kind, id)
  return <>Delete{users > 0 ? `, with ${users} that ${users === 1 ? 'needs' : 'need'} it` : ''}</>
}

/** What is wrong with the last edit; what is shown is the last that was right. */
export function FaultNote() {
  const { roles } = useTheme()
  const fault = useBench((b) => b.fault)
  const refused = useBench((b) => b.save === 'refused')
  if (!fault) return null
  return (
    <Box
      role="alert"
      sx={{ mx: 2, mb: 1, p: 1, borderRadius: '6px', background: roles.redTint, color: roles.redText, fontSize: 11 }}
    >
      <Box sx={{ fontWeight: 600 }}>This cannot be shown; the last picture stays and nothing is lost.</Box>
      {(fault.faults?.length ? fault.faults : [{ address: '', message: fault.detail }]).slice(0, 3).map((f) => (
        <Box key={f.address + f.message}>
          {f.address && <code>{f.address}: </code>}
          {f.message}
        </Box>
      ))}
      <Button
        size="small"
        color="inherit"
        disabled={!refused}
        sx={{ mt: 0.5, px: 0.5 }}
        onClick={() => useBench.getState().putBack()}
      >
        Put back what was there
      </Button>
    </Box>
  )
}
