import Box from '@mui/material/Box'
import MenuItem from '@mui/material/MenuItem'
import Select from '@mui/material/Select'
import ToggleButton from '@mui/material/ToggleButton'
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup'
import { useTheme } from '@mui/material/styles'
import { useId, useState } from 'react'
import type { Quantity } from '../../core/units'
import { NumberField } from './NumberField'
import { threeFields } from '../../look/theme'

/** Fields two abreast. */
export function Pair({ children }: { children: React.ReactNode }) {
  return <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1.5 }}>{children}</Box>
}

/** What stands above a field. */
export function Label({ id, children }: { id?: string; children: React.ReactNode }) {
  const { roles } = useTheme()
  return (
    <Box id={id} sx={{ fontSize: 11, lineHeight: '16px', mb: '3px', color: roles.secondary }}>
      {children}
    </Box>
  )
}

/** One of a few, all in sight; on several lines where there is little room. */
export function Choice<T extends string>({
  label,
  bare,
  value,
  options,
  onChange,
  names,
  hints,
}: {
  label: string
  /** The label is not shown, where what it stands in has the same name. */
  bare?: boolean
  value: T
  options: readonly T[]
  onChange: (v: T) => void
  names?: Partial<Record<T, string>>
  /** What each of them does and when to take it, as tooltips. */
  hints?: Partial<Record<T, string>>
}) {
  const group = (
    <ToggleButtonGroup
      exclusive
      fullWidth
      size="small"
      value={value}
      aria-label={label}
      onChange={(_, v: T | null) => v && v !== value && onChange(v)}
      sx={{ minHeight: 28, minWidth: 0, flexWrap: 'wrap' }}
    >
      {options.map((o) => (
        <ToggleButton
          key={o}
          value={o}
          title={hints?.[o]}
          sx={{
            height: 28,
            width: 'auto',
            flex: '1 1 0',
            minWidth: 'max-content',
            whiteSpace: 'nowrap',
            ...(options.length > 3 ? { px: '3px' } : {}),
          }}
        >
          {names?.[o] ?? o}
        </ToggleButton>
      ))}
    </ToggleButtonGroup>
  )
  if (bare) return group
  return (
    <Box sx={{ minWidth: 0 }}>
      <Label>{label}</Label>
      {group}
    </Box>
  )
}

/** One of many, folded up. */
export function Pick<T extends string>({
  label,
  value,
  options,
  onChange,
  names,
  hideLabel,
  inline,
}: {
  hideLabel?: boolean
  inline?: boolean
  label: string
  value: T
  options: readonly T[]
  onChange: (v: T) => void
  names?: Record<string, string>
}) {
  const { roles } = useTheme()
  const id = useId()
  return (
    <Box
      sx={{
        minWidth: 0,
        ...(inline ? { display: 'grid', gridTemplateColumns: '1fr 1fr', alignItems: 'center', columnGap: 1.5 } : {}),
      }}
    >
      {!hideLabel && (
        <Box id={id} sx={{ fontSize: 11, lineHeight: '16px', mb: inline ? 0 : '3px', color: roles.secondary }}>
          {label}
        </Box>
      )}
      <Select<T>
        fullWidth
        displayEmpty
        variant="outlined"
        value={value}
        {...(hideLabel ? { inputProps: { 'aria-label': label } } : { labelId: id })}
        onChange={(e) => onChange(e.target.value as T)}
        sx={{
          height: 26,
          fontSize: 12,
          background: roles.raised,
          '& .MuiSelect-select': { py: 0, pl: 1 },
          '& fieldset': { borderColor: roles.border },
        }}
      >
        {options.map((o) => (
          <MenuItem key={o} value={o}>
            {names?.[o] ?? o}
          </MenuItem>
        ))}
      </Select>
    </Box>
  )
}

/** Three numbers in a row. */
export function Vec3Field({
  label,
  value,
  quantity = 'length',
  onPreview,
  onCommit,
}: {
  label: string
  value: [number, number, number]
  quantity?: Quantity
  onPreview?: (v: [number, number, number]) => void
  onCommit: (v: [number, number, number]) => void
}) {
  const { roles } = useTheme()
  const put = (i: number, x: number) => value.map((v, k) => (k === i ? x : v)) as [number, number, number]
  return (
    <Box role="group" aria-label={label}>
      <Box sx={{ fontSize: 11, lineHeight: '16px', mb: '3px', color: roles.secondary }}>{label}</Box>
      <Box sx={threeFields}>
        {(['x', 'y', 'z'] as const).map((axis, i) => (
          <NumberField
            key={axis}
            label={`${label} ${axis}`}
            hideLabel
            unit={axis}
            quantity={quantity}
            value={value[i]!}
            onPreview={onPreview && ((x) => onPreview(put(i, x)))}
            onCommit={(x) => onCommit(put(i, x))}
          />
        ))}
      </Box>
    </Box>
  )
}

/** A name to be changed in place. */
export function NameField({
  value,
  label,
  onCommit,
  size = 15,
}: {
  value: string
  label: string
  onCommit: (name: string) => void
  size?: number
}) {
  const { roles } = useTheme()
  const [draft, setDraft] = useState<string | null>(null)
  const commit = () => {
    const name = draft?.trim()
    setDraft(null)
    if (name && name !== value) onCommit(name)
  }
  return (
    <Box
      component="input"
      aria-label={label}
      value={draft ?? value}
      maxLength={60}
      size={Math.max((draft ?? value).length, 4)}
      onFocus={() => setDraft(value)}
      onChange={(e) => setDraft(e.target.value)}
      onBlur={commit}
      onKeyDown={(e) => {
        e.stopPropagation()
        if (e.key === 'Enter') e.currentTarget.blur()
        if (e.key === 'Escape') {
          setDraft(null)
          requestAnimationFrame(() => (e.target as HTMLInputElement).blur())
        }
      }}
      sx={{
        font: `600 ${size}px/20px 'IBM Plex Sans', sans-serif`,
        color: roles.ink,
        border: '1px solid transparent',
        borderRadius: '6px',
        background: 'none',
        p: '1px 4px',
        ml: '-5px',
        minWidth: 0,
        maxWidth: '100%',
        fieldSizing: 'content',
        textOverflow: 'ellipsis',
        '&:hover': { borderColor: roles.rule },
        '&:focus': { borderColor: roles.border, background: roles.raised },
      }}
    />
  )
}

/** A computed figure under a rule: its name, number and what it says. */
export function Figure({
  label,
  value,
  word,
  tone,
}: {
  label: string
  value: string
  word?: string
  tone?: 'good' | 'near' | 'bad'
}) {
  const { roles } = useTheme()
  const colour = tone === 'bad' ? roles.redText : tone === 'near' ? roles.amberText : roles.kelpText
  return (
    <Box sx={{ display: 'flex', alignItems: 'baseline', gap: 1, fontSize: 11, color: roles.secondary }}>
      <span>{label}</span>
      <Box component="span" sx={{ font: `500 12px/16px 'IBM Plex Mono', monospace`, color: roles.ink }}>
        {value}
      </Box>
      {word && (
        <Box
          component="span"
          sx={{ ml: 'auto', fontWeight: 600, fontSize: 12, color: tone ? colour : roles.secondary }}
        >
          {word}
        </Box>
      )}
    </Box>
  )
}
