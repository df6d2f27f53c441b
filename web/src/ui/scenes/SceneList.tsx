import Alert from '@mui/material/Alert'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Dialog from '@mui/material/Dialog'
import DialogActions from '@mui/material/DialogActions'
import DialogTitle from '@mui/material/DialogTitle'
import { useTheme } from '@mui/material/styles'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { copyScene, deleteScene, keepScene, renameScene, scenesQuery } from '../../api/client'
import type { SceneCard } from '../../core/page.generated'
import { Pick } from '../fields/fields'
import { Card } from './Card'

type Order = 'touched' | 'name' | 'frames'

/** Cards come last touched first. */
function sorted(list: SceneCard[], by: Order): SceneCard[] {
  if (by === 'name') return [...list].sort((a, b) => a.name.localeCompare(b.name))
  return by === 'frames' ? [...list].sort((a, b) => b.frames - a.frames) : list
}

/** The scenes as cards that can be searched, ordered, named, copied, kept as beginnings and deleted. */
export function SceneList({ say }: { say: (e: unknown) => void }) {
  const { roles } = useTheme()
  const client = useQueryClient()
  const scenes = useQuery(scenesQuery)
  const [doomed, setDoomed] = useState<SceneCard | null>(null)
  const renew = () => client.invalidateQueries({ queryKey: ['scenes'] })
  const copy = useMutation({ mutationFn: copyScene, onSuccess: renew, onError: say })
  const keep = useMutation({
    mutationFn: (s: SceneCard) => keepScene(s.id, !s.beginning),
    onSuccess: renew,
    onError: say,
  })
  const drop = useMutation({ mutationFn: deleteScene, onSuccess: renew, onError: say })
  const rename = useMutation({
    mutationFn: ({ card, name }: { card: SceneCard; name: string }) => renameScene(card.id, card.revision, name),
    onSuccess: renew,
    onError: say,
  })
  const [wanted, setWanted] = useState('')
  const [order, setOrder] = useState<Order>('touched')
  const shown = sorted(scenes.data ?? [], order).filter((s) =>
    [s.name, ...s.rigs].some((n) => n.toLowerCase().includes(wanted.trim().toLowerCase())),
  )
  return (
    <>
      <Toolbar
        wanted={wanted}
        onWanted={setWanted}
        order={order}
        onOrder={setOrder}
        plain={(scenes.data?.length ?? 0) < 2}
      />
      {scenes.isError && (
        <Alert severity="error" action={<Button onClick={() => void scenes.refetch()}>Try again</Button>}>
          {scenes.error.message}
        </Alert>
      )}
      {scenes.data?.length === 0 && (
        <Box sx={{ color: roles.secondary }}>No scene yet. Press one of the jobs above to begin.</Box>
      )}
      <Box
        component="ul"
        sx={{
          listStyle: 'none',
          m: 0,
          p: 0,
          display: 'grid',
          gridTemplateColumns: 'repeat(auto-fill, minmax(252px, 1fr))',
          gap: 2,
        }}
      >
        {shown.map((s) => (
          <Card
            key={s.id}
            card={s}
            onRename={(name) => rename.mutate({ card: s, name })}
            onCopy={() => copy.mutate(s.id)}
            onKeep={() => keep.mutate(s)}
            onDelete={() => setDoomed(s)}
          />
        ))}
      </Box>
      {wanted && shown.length === 0 && (
        <Box sx={{ color: roles.secondary }}>No scene and no rig has “{wanted}” in its name.</Box>
      )}
      <Dialog open={!!doomed} onClose={() => setDoomed(null)}>
        <DialogTitle sx={{ typography: 'h2' }}>Delete “{doomed?.name}” and its history?</DialogTitle>
        <DialogActions>
          <Button color="inherit" onClick={() => setDoomed(null)}>
            Keep it
          </Button>
          <Button
            color="error"
            variant="contained"
            onClick={() => {
              if (doomed) drop.mutate(doomed.id)
              setDoomed(null)
            }}
          >
            Delete
          </Button>
        </DialogActions>
      </Dialog>
    </>
  )
}

/** The list's head, with search and order where there is something to search. */
function Toolbar({
  wanted,
  onWanted,
  order,
  onOrder,
  plain,
}: {
  wanted: string
  onWanted: (v: string) => void
  order: Order
  onOrder: (v: Order) => void
  plain: boolean
}) {
  const { roles } = useTheme()
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', gap: 1.5, mb: 1.5, flexWrap: 'wrap' }}>
      <Box component="h2" sx={{ typography: 'h2', m: 0, flex: 1 }}>
        Scenes
      </Box>
      {!plain && (
        <>
          <Box
            component="input"
            type="search"
            aria-label="Search the scenes"
            placeholder="Search by name or rig"
            value={wanted}
            onChange={(e: React.ChangeEvent<HTMLInputElement>) => onWanted(e.target.value)}
            sx={{
              height: 28,
              width: 200,
              px: 1,
              border: `1px solid ${roles.border}`,
              borderRadius: '6px',
              background: roles.raised,
              color: roles.ink,
              font: 'inherit',
            }}
          />
          <Box sx={{ width: 170 }}>
            <Pick
              hideLabel
              label="Order of the scenes"
              value={order}
              options={['touched', 'name', 'frames'] as const}
              names={{ touched: 'last touched first', name: 'by name', frames: 'longest first' }}
              onChange={onOrder}
            />
          </Box>
        </>
      )}
    </Box>
  )
}
