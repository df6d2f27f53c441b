import Box from '@mui/material/Box'
import { useTheme } from '@mui/material/styles'
import type { Rig } from '../../core/page.generated'
import { leadOf } from '../../core/rigs'
import { isKeyed } from '../../core/value'
import { useBench } from '../../stores/bench'
import { useClock } from '../../stores/clock'
import { EndsSelect, ShapeSelect } from '../fields/EndsSelect'
import { MovingField } from '../fields/MovingField'

/** How the chosen rig's travel goes on from the key before the play head, and after its last one. */
export function TravelSelects({ rig, index }: { rig: Rig; index: number }) {
  const frame = useClock((c) => c.frame)
  const edit = useBench((b) => b.edit)
  const value = rig.travel
  if (value === undefined || !isKeyed(value)) return null
  // The stretch that the play head is on begins with this key.
  const stretch = value.keys.slice(0, -1).findLast((k) => k.frame <= frame)
  return (
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
}

/** The chosen rig's travel at the play head. */
export function TravelAtFrame({ rig, index }: { rig: Rig; index: number }) {
  const { roles } = useTheme()
  const edit = useBench((b) => b.edit)
  const present = useBench((b) => b.shown.find((p) => p.rig === index)?.travel) ?? 0
  if (rig.travel === undefined) return null
  return (
    <>
      <Box
        component="span"
        className="gives"
        sx={{
          color: roles.secondary,
          overflow: 'hidden',
          textOverflow: 'ellipsis',
          minWidth: 0,
          // A few letters of the name would say nothing; the flag in the view tells it as well.
          ...(isKeyed(rig.travel) && { '@container (min-width: 861px) and (max-width: 1100px)': { display: 'none' } }),
        }}
      >
        {rig.name} {leadOf(rig) ? 'ahead' : 'travel'}
      </Box>
      <MovingField
        label="Travel at this frame"
        name="travel"
        hideLabel
        beadBeside
        value={rig.travel}
        present={present}
        quantity="distance"
        width={96}
        colour={roles.orangeText}
        onPreview={(v) => useBench.getState().preview((d) => void (d.rigs[index]!.travel = v))}
        onCommit={(v, label) => edit(label, (d) => void (d.rigs[index]!.travel = v))}
      />
    </>
  )
}
