import ArrowDownward from '@mui/icons-material/ArrowDownward'
import ArrowUpward from '@mui/icons-material/ArrowUpward'
import Close from '@mui/icons-material/Close'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Checkbox from '@mui/material/Checkbox'
import IconButton from '@mui/material/IconButton'
import Menu from '@mui/material/Menu'
import MenuItem from '@mui/material/MenuItem'
import { useTheme } from '@mui/material/styles'
import { useState } from 'react'
import type { Document, Path, Step, StepReadout } from '../../core/page.generated'
import { firstStep, stepForms, stepKind, type StepKind } from '../../core/forms'
import { slotsOf } from '../../core/slots'
import { showWithUnit } from '../../core/units'
import { useBench } from '../../stores/bench'
import { FormFields } from '../fields/FormFields'
import { SlotField } from '../fields/SlotField'
import { WaveFields } from './WaveFields'
import { Pick } from '../fields/fields'

/** The shaping steps of a path, in the order they are taken. */
export function StepsList({ path, index }: { path: Path; index: number }) {
  const { roles } = useTheme()
  const edit = useBench((b) => b.edit)
  const info = useBench((b) => b.answer?.readout.paths[index])
  const [menu, setMenu] = useState<HTMLElement | null>(null)
  const [open, setOpen] = useState<number | null>(null)
  const steps = path.steps ?? []
  const list = (d: Document) => (d.paths[index]!.steps ??= [])
  const measured = useBench((b) => b.answer?.readout.paths)
  // Only open paths can be joined.
  const others =
    useBench((b) => b.doc?.paths)?.filter(
      (p) => p.id !== path.id && measured?.find((m) => m.id === p.id)?.closed !== true,
    ) ?? []

  function add(kind: StepKind) {
    setMenu(null)
    const step = firstStep(kind, info?.length ?? 1)
    if (step.join) step.join.paths = others.slice(0, 1).map((p) => p.id)
    edit(`${stepForms[kind].name.toLowerCase()} ${path.name}`, (d) => void list(d).push(step))
    setOpen(steps.length)
  }
  const move = (i: number, by: number) =>
    edit('reorder the steps', (d) => {
      const l = list(d)
      const [s] = l.splice(i, 1)
      l.splice(i + by, 0, s!)
      setOpen(null)
    })

  return (
    <Box sx={{ borderTop: `1px solid ${roles.rule}`, pt: 0.75 }} data-testid="steps">
      <Box sx={{ display: 'flex', alignItems: 'center', height: 24 }}>
        <Box component="h3" sx={{ m: 0, font: 'inherit', fontWeight: 600, flex: 1 }}>
          Shaping steps
        </Box>
        <Button onClick={(e) => setMenu(e.currentTarget)} sx={{ minHeight: 24, px: 0.75 }} aria-haspopup="menu">
          Add a step
        </Button>
      </Box>
      {steps.length === 0 && (
        <Box sx={{ fontSize: 11, color: roles.secondary }}>
          None: the shape is used as it is. Steps reverse, close, join, offset it and more, each undone by a switch.
        </Box>
      )}
      {steps.map((s, i) => (
        <StepRow
          key={i}
          step={s}
          index={index}
          number={i}
          last={i === steps.length - 1}
          did={info?.steps?.length === steps.length ? info.steps[i] : undefined}
          open={open === i}
          onToggle={() => setOpen(open === i ? null : i)}
          onMove={(by) => move(i, by)}
          onDrop={(from) => from !== i && move(from, i - from)}
          onOff={() =>
            edit(s.off ? 'switch a step on' : 'switch a step off', (d) => void (list(d)[i]!.off = !s.off || undefined))
          }
          onDelete={() => {
            setOpen(null)
            edit(`take out a step of ${path.name}`, (d) => void list(d).splice(i, 1))
          }}
          onChange={(change, label) => edit(label, (d) => change(list(d)[i]!))}
          others={others}
        />
      ))}
      <Menu anchorEl={menu} open={!!menu} onClose={() => setMenu(null)} slotProps={{ list: { dense: true } }}>
        {(Object.keys(stepForms) as StepKind[]).map((k) => (
          <MenuItem key={k} onClick={() => add(k)} disabled={k === 'join' && others.length === 0}>
            {stepForms[k].name}
            <Box component="span" sx={{ color: roles.secondary, ml: 1, fontSize: 11 }}>
              {stepForms[k].text}
            </Box>
          </MenuItem>
        ))}
      </Menu>
    </Box>
  )
}

/** What is dragged is a step of the list. */
const stepType = 'application/x-bead-step'

const tiny = { width: 22, height: 22, '& svg': { fontSize: 14 } }

function StepRow({
  step,
  index,
  number,
  last,
  did,
  open,
  onToggle,
  onMove,
  onDrop,
  onOff,
  onDelete,
  onChange,
  others,
}: {
  step: Step
  /** Of the path. */
  index: number
  number: number
  last: boolean
  did: StepReadout | undefined
  open: boolean
  onToggle: () => void
  onMove: (by: number) => void
  /** Another step was dropped on it: it takes its place. */
  onDrop: (from: number) => void
  onOff: () => void
  onDelete: () => void
  onChange: (change: (s: Step) => void, label: string) => void
  others: Path[]
}) {
  const { roles } = useTheme()
  const units = useBench((b) => b.doc?.units) ?? 'mm'
  const kind = stepKind(step)
  const form = stepForms[kind]
  const name = `${form.name.toLowerCase()}, step ${number + 1}`
  const change = did && Math.abs(did.change) > 1e-9 ? signed(did.change, units) : 'same length'
  const preview = useBench((b) => b.preview)
  const doc = useBench((b) => b.doc)!
  const slots = slotsOf(doc, 'path', doc.paths[index]?.id)
  return (
    <Box
      sx={{
        border: `1px solid ${open ? roles.border : roles.rule}`,
        borderRadius: '6px',
        mt: 0.5,
        background: open ? roles.paper : 'transparent',
      }}
      data-step-kind={kind}
      onDragOver={(e) => e.dataTransfer.types.includes(stepType) && e.preventDefault()}
      onDrop={(e) => {
        const from = e.dataTransfer.getData(stepType)
        if (!from) return
        e.preventDefault()
        e.stopPropagation()
        onDrop(Number(from))
      }}
    >
      <Box
        draggable
        onDragStart={(e) => e.dataTransfer.setData(stepType, String(number))}
        sx={{ display: 'flex', alignItems: 'center', height: 28, pr: 0.25 }}
      >
        <Checkbox
          size="small"
          checked={!step.off}
          onChange={onOff}
          sx={{ p: 0.5, '& svg': { fontSize: 16 } }}
          slotProps={{ input: { 'aria-label': `Take ${name}` } }}
        />
        <Box
          component="button"
          type="button"
          aria-expanded={open}
          onClick={onToggle}
          sx={{
            flex: 1,
            minWidth: 0,
            display: 'flex',
            alignItems: 'baseline',
            gap: 0.75,
            border: 0,
            p: 0,
            background: 'none',
            color: step.off ? roles.secondary : roles.ink,
            font: 'inherit',
            textAlign: 'left',
            cursor: 'pointer',
          }}
        >
          <Box component="span" sx={{ fontWeight: 500, whiteSpace: 'nowrap' }}>
            {form.name}
          </Box>
          <Box
            component="span"
            sx={{
              font: `11px/16px 'IBM Plex Mono', monospace`,
              color: roles.secondary,
              overflow: 'hidden',
              textOverflow: 'ellipsis',
              whiteSpace: 'nowrap',
            }}
          >
            {step.off ? 'off' : change}
          </Box>
        </Box>
        <IconButton aria-label={`Earlier: ${name}`} disabled={number === 0} onClick={() => onMove(-1)} sx={tiny}>
          <ArrowUpward />
        </IconButton>
        <IconButton aria-label={`Later: ${name}`} disabled={last} onClick={() => onMove(1)} sx={tiny}>
          <ArrowDownward />
        </IconButton>
        <IconButton aria-label={`Remove ${name}`} onClick={onDelete} sx={tiny}>
          <Close />
        </IconButton>
      </Box>
      {open && (
        <Box sx={{ px: 1, pb: 1, display: 'grid', gap: 1 }}>
          {step.wave && <WaveFields step={step} onChange={onChange} />}
          {step.join && <JoinPaths step={step} others={others} onChange={onChange} />}
          <FormFields
            moving={(f) => {
              const slot = slots.find((s) => s.at[1] === number && s.key.endsWith(`-${f.key}`))
              return (
                slot && (
                  <Box key={f.key} sx={{ minWidth: 0, gridColumn: f.key === 'phase' ? '1 / -1' : undefined }}>
                    <SlotField slot={slot} label={f.label} />
                  </Box>
                )
              )
            }}
            fields={form.fields}
            length={did?.length}
            value={step[kind]!}
            onPreview={(key, v) =>
              preview((d) => {
                const s = d.paths[index]?.steps?.[number]
                if (s) (s[kind] as Record<string, unknown>)[key] = v
              })
            }
            onCommit={(key, v, label) =>
              onChange(
                (s) => void ((s[kind] as Record<string, unknown>)[key] = v),
                `set ${label.toLowerCase()} of ${form.name.toLowerCase()}`,
              )
            }
          />
          {did && (
            <Box sx={{ fontSize: 11, color: roles.secondary }}>
              {showWithUnit(did.length, 'distance', units)} after it, {did.closed ? 'closed' : 'open'}, {did.spans}{' '}
              spans. {did.note}
            </Box>
          )}
        </Box>
      )}
    </Box>
  )
}

function signed(v: number, units: Parameters<typeof showWithUnit>[2]) {
  return (v > 0 ? '+' : '−') + showWithUnit(Math.abs(v), 'length', units)
}

/** The paths that a join puts behind this one. */
function JoinPaths({
  step,
  others,
  onChange,
}: {
  step: Step
  others: Path[]
  onChange: (change: (s: Step) => void, label: string) => void
}) {
  const ids = step.join!.paths
  const names = Object.fromEntries(others.map((p) => [p.id, p.name]))
  const free = others.filter((p) => !ids.includes(p.id))
  return (
    <>
      {ids.map((id, i) => (
        <Box key={id} sx={{ display: 'flex', alignItems: 'center', gap: 0.5 }}>
          <Box sx={{ flex: 1, minWidth: 0 }}>
            <Pick
              hideLabel
              label={`Path ${i + 2} of the join`}
              value={id}
              options={[id, ...free.map((p) => p.id)]}
              names={names}
              onChange={(v) => onChange((s) => void (s.join!.paths[i] = v), 'change a joined path')}
            />
          </Box>
          <IconButton
            aria-label={`Leave ${names[id]} out of the join`}
            disabled={ids.length < 2}
            sx={tiny}
            onClick={() => onChange((s) => void s.join!.paths.splice(i, 1), 'leave a path out of the join')}
          >
            <Close />
          </IconButton>
        </Box>
      ))}
      {free.length > 0 && (
        <Button
          sx={{ minHeight: 24 }}
          onClick={() => onChange((s) => void s.join!.paths.push(free[0]!.id), `join ${free[0]!.name}`)}
        >
          And another path
        </Button>
      )}
    </>
  )
}
