import Box from '@mui/material/Box'
import { useTheme } from '@mui/material/styles'
import { useEffect, useId, useRef, useState } from 'react'
import { limits, type Limit, type LimitedField } from '../../core/forms'
import { NumberError, readNumber, show, shownUnit, stepOf, type Quantity } from '../../core/units'
import { useBench } from '../../stores/bench'
import { mono } from '../../look/theme'

export interface NumberFieldProps {
  label: string
  value: number
  quantity: Quantity
  /** Shown in place of the unit, such as "shoes". */
  unit?: string
  /** The value follows from others: it is shown dashed and cannot be typed. */
  /** Comes from elsewhere and takes no typing; a word says whence, "computed" where none is given. */
  computed?: boolean | string
  /** Where it is in documents: that says what it has to lie between. */
  at?: LimitedField
  /** Tighter than that, or where it is nowhere in documents. */
  min?: number
  max?: number
  hideLabel?: boolean
  /** Shown at its end, behind the unit. */
  end?: React.ReactNode
  /** Shown to the left of the label, such as a key bead. */
  adornment?: React.ReactNode
  disabled?: boolean
  width?: number | string
  colour?: string
  /** Shows a value while it is being dragged or stepped. */
  onPreview?: (value: number) => void
  onCommit: (value: number) => void
}

/**
 * A number with its unit. Takes units and arithmetic; the label is dragged
 * sideways to change it (Shift: ten times finer), arrow keys step it (Shift: ten
 * steps), Escape puts back what was there.
 */
export function NumberField(props: NumberFieldProps) {
  const { label, value, quantity, computed, disabled } = props
  const accepted: Limit = props.at ? limits[props.at] : {}
  const min = props.min ?? accepted.min ?? -Infinity
  const max = props.max ?? accepted.max ?? Infinity
  const { roles } = useTheme()
  const id = useId()
  const small = useBench((b) => b.doc?.units) ?? 'mm'
  const [draft, setDraft] = useState<string | null>(null)
  const [error, setError] = useState('')
  const drag = useRef<{ x: number; from: number; moved: boolean; last: number } | null>(null)
  const stepped = useRef<ReturnType<typeof setTimeout>>(undefined)
  const shown = show(value, quantity, small)
  const unit = props.unit ?? shownUnit(quantity, small)
  const clamp = (v: number) => Math.min(Math.max(v, min), max)

  useEffect(() => () => clearTimeout(stepped.current), [])

  function commit() {
    if (draft === null) return
    try {
      const v = readNumber(draft.trim(), quantity, small)
      // What was typed counts, also where it reads as what was shown: that is rounded.
      if (v === value) {
        setError('')
        setDraft(null)
        return
      }
      if (v < min || v > max) {
        const lo = min > -Infinity ? `from ${show(min, quantity, small)}` : ''
        const hi = max < Infinity ? `up to ${show(max, quantity, small)}` : ''
        throw new NumberError(`${lo} ${hi} ${unit} is accepted.`.trim())
      }
      setError('')
      setDraft(null)
      props.onCommit(v)
    } catch (e) {
      setError(e instanceof NumberError ? e.message : String(e))
    }
  }

  function step(by: number) {
    const v = clamp(Math.round((value + by) * 1e9) / 1e9)
    setDraft(null)
    setError('')
    ;(props.onPreview ?? props.onCommit)(v)
    clearTimeout(stepped.current)
    if (props.onPreview) stepped.current = setTimeout(() => props.onCommit(v), 350)
  }

  const stepSize = stepOf(quantity, small)
  return (
    <Box sx={{ width: props.width ?? '100%', minWidth: 0 }}>
      {!props.hideLabel && (
        <Box sx={{ display: 'flex', alignItems: 'center', gap: 0.5, height: 16, mb: '3px' }}>
          {/* Beside the label, which takes the pointer for dragging. */}
          {props.adornment}
          <Box
            component="label"
            htmlFor={id}
            onPointerDown={(e) => {
              if (computed || disabled || e.button !== 0) return
              e.currentTarget.setPointerCapture(e.pointerId)
              drag.current = { x: e.clientX, from: value, moved: false, last: value }
            }}
            onPointerMove={(e) => {
              const d = drag.current
              if (!d || e.buttons === 0) return
              const px = e.clientX - d.x
              if (!d.moved && Math.abs(px) < 3) return
              d.moved = true
              const fine = e.shiftKey ? 0.1 : 1
              const by =
                quantity === 'count' || quantity === 'frame' ? Math.round((px * fine) / 8) : px * fine * stepSize
              d.last = clamp(Math.round((d.from + by) * 1e9) / 1e9)
              props.onPreview?.(d.last)
            }}
            onPointerUp={() => {
              if (drag.current?.moved) props.onCommit(drag.current.last)
            }}
            onPointerCancel={() => {
              drag.current = null
              useBench.getState().cancel()
            }}
            onClick={(e) => {
              // The click that ends a drag does not go into the field.
              if (drag.current?.moved) e.preventDefault()
              drag.current = null
            }}
            sx={{
              fontSize: 11,
              lineHeight: '16px',
              color: roles.secondary,
              cursor: computed || disabled ? 'default' : 'ew-resize',
              userSelect: 'none',
              whiteSpace: 'nowrap',
              touchAction: 'none',
            }}
          >
            {label}
            {computed && `, ${computed === true ? 'computed' : computed}`}
          </Box>
        </Box>
      )}
      <Box
        sx={{
          display: 'flex',
          alignItems: 'center',
          height: 26,
          px: 1,
          borderRadius: '6px',
          border: `1px ${computed ? 'dashed' : 'solid'} ${error ? roles.red : roles.border}`,
          background: computed ? 'transparent' : roles.raised,
          opacity: disabled ? 0.5 : 1,
          '&:focus-within': { outline: `2px solid ${roles.kelp}`, outlineOffset: 0 },
        }}
      >
        <Box
          component="input"
          id={id}
          aria-label={props.hideLabel ? label : undefined}
          aria-invalid={!!error}
          readOnly={!!computed}
          disabled={disabled}
          inputMode="decimal"
          spellCheck={false}
          autoComplete="off"
          value={draft ?? shown}
          onFocus={(e) => !computed && e.target.select()}
          onChange={(e) => {
            setDraft(e.target.value)
            setError('')
          }}
          onBlur={commit}
          onKeyDown={(e) => {
            // Escape goes on to what the field stands in where nothing is left to put back here.
            if (e.key !== 'Escape' || draft !== null) e.stopPropagation()
            if (e.key === 'Enter') commit()
            else if (e.key === 'Escape') {
              setDraft(null)
              setError('')
              if (props.onPreview) useBench.getState().cancel()
              e.currentTarget.blur()
            } else if ((e.key === 'ArrowUp' || e.key === 'ArrowDown') && !computed) {
              e.preventDefault()
              step((e.key === 'ArrowUp' ? 1 : -1) * stepSize * (e.shiftKey ? 10 : 1))
            } else if ((e.ctrlKey || e.metaKey) && e.key.toLowerCase() === 'z' && draft === null) {
              e.preventDefault()
              e.currentTarget.blur()
              void (e.shiftKey ? useBench.getState().redo() : useBench.getState().undo())
            }
          }}
          sx={{
            flex: 1,
            minWidth: 0,
            width: 0,
            border: 0,
            p: 0,
            background: 'none',
            color: props.colour ?? roles.ink,
            font: `500 12px/16px ${mono}`,
            outline: 'none !important',
          }}
        />
        {unit && (
          <Box component="span" sx={{ pl: 0.5, fontSize: 11, color: roles.secondary, whiteSpace: 'nowrap' }}>
            {unit}
          </Box>
        )}
        {props.end}
      </Box>
      {error && (
        <Box role="alert" sx={{ fontSize: 11, lineHeight: '14px', color: roles.redText, mt: 0.5 }}>
          {error}
        </Box>
      )}
    </Box>
  )
}
