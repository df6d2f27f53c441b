import Box from '@mui/material/Box'
import { useTheme } from '@mui/material/styles'
import { isKeyed, sourceOf, toggledKey, type Value } from '../../core/value'

/** The bead beside a value that can move: none, keyed, keyed here. A press sets or takes out a key. */
export function KeyBead({
  value,
  frame,
  label,
  present,
  onChange,
  withText,
}: {
  value: Value
  frame: number
  label: string
  present: number
  onChange: (v: Value, label: string) => void
  withText?: boolean
}) {
  const { roles } = useTheme()
  const here = isKeyed(value) && value.keys.some((k) => k.frame === frame)
  const driven = !['set', 'keys'].includes(sourceOf(value))
  const says = driven
    ? `Key: ${label} is driven, and takes keys when it comes from keys`
    : here
      ? `Remove the key of ${label} at frame ${frame}`
      : `Set a key of ${label} at frame ${frame}`
  return (
    <Box
      component="button"
      type="button"
      aria-label={says}
      title={says}
      disabled={driven}
      onClick={() => onChange(...toggledKey(value, frame, present, label))}
      sx={{
        display: 'inline-flex',
        alignItems: 'center',
        gap: 0.75,
        border: 0,
        background: 'none',
        p: withText ? '4px 6px' : '2px',
        borderRadius: '6px',
        cursor: driven ? 'default' : 'pointer',
        opacity: driven ? 0.45 : 1,
        color: roles.brassText,
        font: `500 12px/16px 'IBM Plex Sans', sans-serif`,
        '&:hover': { background: roles.sunken },
      }}
    >
      <svg width="11" height="11" aria-hidden>
        <circle
          cx="5.5"
          cy="5.5"
          r="4"
          fill={here ? roles.brass : 'none'}
          stroke={isKeyed(value) ? roles.brass : roles.border}
          strokeWidth="1.5"
        />
      </svg>
      {withText && 'Key'}
    </Box>
  )
}
