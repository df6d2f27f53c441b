import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import LinearProgress from '@mui/material/LinearProgress'
import { useTheme } from '@mui/material/styles'
import { useEffect } from 'react'
import { bakeFileUrl, bakeNoteUrl, fetchAddress } from '../../api/client'
import { useDeliveries, type Delivery } from '../../stores/deliver'

const size = (bytes: number) => (bytes < 1e6 ? `${(bytes / 1e3).toFixed(0)} KB` : `${(bytes / 1e6).toFixed(1)} MB`)

/** The files that were asked for of a scene, the newest first. */
export function Deliveries({ scene }: { scene: string }) {
  const list = useDeliveries((d) => d.list).filter((d) => d.scene === scene)
  const load = useDeliveries((d) => d.load)
  useEffect(() => void load(scene), [load, scene])
  if (list.length === 0) return null
  return (
    <Box component="ul" aria-label="Files" sx={{ m: 0, p: 0, listStyle: 'none', display: 'grid', gap: 1 }}>
      {list.map((d) => (
        <File key={d.state.id} of={d} />
      ))}
    </Box>
  )
}

function File({ of: { state, own } }: { of: Delivery }) {
  const { roles } = useTheme()
  const { cancel, forget } = useDeliveries.getState()
  const ready = state.state === 'finished'
  return (
    <Box
      component="li"
      {...(ready ? { 'data-testid': 'baked', 'data-job': state.id } : {})}
      sx={{ p: 1, border: `1px solid ${roles.rule}`, borderRadius: '6px', display: 'grid', gap: 0.5, fontSize: 12 }}
    >
      <Box sx={{ display: 'flex', gap: 1, alignItems: 'baseline' }}>
        <Box sx={{ fontWeight: 500 }}>{state.format}</Box>
        <Box sx={{ flex: 1, color: roles.secondary, fontSize: 11 }}>
          {state.first === state.last ? `frame ${state.first}` : `frames ${state.first} to ${state.last}`}
        </Box>
        <Box role="status" sx={{ fontSize: 11, color: ready ? roles.kelpText : roles.secondary }}>
          {ready
            ? `${size(state.bytes)}${own ? ', downloaded' : ''}`
            : state.state === 'running'
              ? `${state.done} of ${state.total}`
              : ''}
        </Box>
      </Box>
      {state.state === 'running' && (
        <Box sx={{ display: 'flex', gap: 1, alignItems: 'center' }}>
          <LinearProgress
            variant="determinate"
            value={(100 * state.done) / Math.max(state.total, 1)}
            aria-label={`Baking ${state.format}`}
            sx={{ flex: 1 }}
          />
          {state.done > 0 && (
            <Box sx={{ fontSize: 11, color: roles.secondary }}>about {Math.ceil(state.left)} s left</Box>
          )}
          <Button size="small" color="inherit" onClick={() => void cancel(state.id)}>
            Cancel
          </Button>
        </Box>
      )}
      {state.state === 'failed' && (
        <Box role="alert" sx={{ color: roles.redText, fontSize: 11 }}>
          {/cancel/.test(state.detail ?? '') ? 'The bake was cancelled.' : state.detail}
        </Box>
      )}
      {state.notes?.map((n) => (
        <Box key={n} sx={{ fontSize: 11, color: roles.secondary }}>
          {n}
        </Box>
      ))}
      {state.state !== 'running' && (
        <Box sx={{ display: 'flex', gap: 0.5, flexWrap: 'wrap' }}>
          {ready && (
            <>
              <Button size="small" onClick={() => fetchAddress(bakeFileUrl(state.id))}>
                {own ? 'Save again' : 'Save the file'}
              </Button>
              <Button
                size="small"
                title="What the file was made of, how, and what the checks say, as JSON"
                onClick={() => fetchAddress(bakeNoteUrl(state.id))}
              >
                Save its note
              </Button>
            </>
          )}
          <Button size="small" color="inherit" onClick={() => forget(state.id)}>
            Take off
          </Button>
        </Box>
      )}
    </Box>
  )
}
