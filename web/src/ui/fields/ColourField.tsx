import Box from '@mui/material/Box'
import { useTheme } from '@mui/material/styles'
import { useId, useState } from 'react'
import { mono } from '../../look/theme'
import { Label } from './fields'

const form = /^#?[0-9a-f]{6}$/i

/** A colour: a swatch that opens the browser's own picker, and its six digits to type. */
export function ColourField({
  label,
  value,
  onPreview,
  onCommit,
  end,
}: {
  label: string
  value: string
  onPreview: (v: string) => void
  onCommit: (v: string) => void
  /** Shown behind it. */
  end?: React.ReactNode
}) {
  const { roles } = useTheme()
  const id = useId()
  const [draft, setDraft] = useState<string | null>(null)
  const [picked, setPicked] = useState<string | null>(null)
  const wrong = draft !== null && !form.test(draft.trim())
  const tidy = (v: string) => `#${v.trim().replace('#', '').toUpperCase()}`
  const keep = (v: string) => {
    setDraft(null)
    setPicked(null)
    if (tidy(v) !== value.toUpperCase()) onCommit(tidy(v))
  }
  return (
    <Box sx={{ minWidth: 0 }}>
      <Label id={id}>{label}</Label>
      <Box sx={{ display: 'flex', gap: 0.75, alignItems: 'center' }}>
        <Box
          component="input"
          type="color"
          aria-label={`${label}: choose`}
          title="Choose a colour"
          value={picked ?? value.toLowerCase()}
          onInput={(e: React.InputEvent<HTMLInputElement>) => {
            setPicked(e.currentTarget.value)
            onPreview(tidy(e.currentTarget.value))
          }}
          onBlur={() => picked && keep(picked)}
          sx={{
            width: 40,
            height: 26,
            p: '2px',
            flexShrink: 0,
            border: `1px solid ${roles.border}`,
            borderRadius: '6px',
            background: roles.raised,
            cursor: 'pointer',
          }}
        />
        <Box
          component="input"
          aria-labelledby={id}
          aria-invalid={wrong}
          title={wrong ? '# and six digits of base 16 are accepted, as in #2E7466' : undefined}
          value={draft ?? picked ?? value}
          spellCheck={false}
          onChange={(e: React.ChangeEvent<HTMLInputElement>) => {
            setDraft(e.target.value)
            if (form.test(e.target.value.trim())) onPreview(tidy(e.target.value))
          }}
          onBlur={() => draft !== null && (wrong ? setDraft(null) : keep(draft))}
          onKeyDown={(e: React.KeyboardEvent<HTMLInputElement>) => {
            if (e.key === 'Enter' && draft !== null && !wrong) keep(draft)
            if (e.key === 'Escape') {
              e.stopPropagation()
              setDraft(null)
              onPreview(value)
            }
          }}
          sx={{
            flex: 1,
            minWidth: 0,
            width: 76,
            height: 26,
            px: 1,
            font: `500 12px/16px ${mono}`,
            color: wrong ? roles.redText : roles.ink,
            background: roles.raised,
            border: `1px solid ${wrong ? roles.red : roles.border}`,
            borderRadius: '6px',
          }}
        />
        {end}
      </Box>
    </Box>
  )
}
