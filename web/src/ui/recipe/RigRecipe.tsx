import Check from '@mui/icons-material/ChevronRight'
import ExpandMore from '@mui/icons-material/ExpandMore'
import Box from '@mui/material/Box'
import { useTheme } from '@mui/material/styles'
import type { Document, Rig } from '../../core/page.generated'
import { allSlots } from '../../core/slots'
import { facingNames, kindOf } from '../../core/rigs'
import { showWithUnit } from '../../core/units'
import { rigForms, shapeForms } from '../../core/forms'
import { shapeKind, type Value } from '../../core/value'
import { inShort } from '../../core/checks'
import { useBench } from '../../stores/bench'
import { waitsFor } from '../../stores/chosen'
import { Pick } from '../fields/fields'
import type { RecipeStep } from '../kinds/kind'
import { kindIn } from '../kinds/kinds'
import { PartFields } from './PartFields'
import { PathFields } from './PathFields'
import { Column, FaultNote, Head } from './RecipeParts'
import { FacingStep } from './FacingStep'
import { TintFields } from './TintFields'
import { TravelStep } from './TravelStep'

/** What moves a value, in a sentence. */
function sourceSentence(v: Value, d: Document, s: (v: number, q?: 'distance' | 'speed') => string): string {
  if (typeof v === 'number') return `By hand, at ${s(v, 'distance')}`
  if ('keys' in v) return `${v.keys.length} ${v.keys.length === 1 ? 'key' : 'keys'}, then ${v.after ?? 'hold'}`
  if ('speed' in v) return `Runs at ${s(v.speed, 'speed')}`
  if ('rpm' in v) return `A wheel at ${v.rpm} rpm`
  if ('turns' in v) return `${v.turns} ${Math.abs(v.turns) === 1 ? 'turn' : 'turns'} of the path a loop`
  if ('of' in v) return `Follows ${allSlots(d).find((x) => x.ref === v.of)?.name ?? v.of}`
  return `Rolls with ${d.carriers?.find((c) => c.id === v.rolls)?.name ?? v.rolls}`
}

/** The chosen rig as a numbered column of steps. */
export function RigRecipe({ rig, index }: { rig: Rig; index: number }) {
  const units = useBench((b) => b.doc?.units) ?? 'mm'
  const doc = useBench((b) => b.doc)!
  const info = useBench((b) => b.answer?.readout.rigs[index])
  const allChecks = useBench((b) => b.checks)
  const checked = useBench((b) => b.checked)
  const waits = useBench((b) => waitsFor(b, rig.id))
  const openStep = useBench((b) => b.openStep)
  const edit = useBench((b) => b.edit)
  const fault = useBench((b) => b.fault)
  const pathAt = doc.paths.findIndex((p) => p.id === rig.path)
  const partAt = doc.parts.findIndex((p) => p.id === rig.part)
  const path = doc.paths[pathAt]
  const part = doc.parts[partAt]
  const pathInfo = useBench((b) => b.answer?.readout.paths[pathAt])
  if (!path || !part) return null
  const checks = allChecks.filter((c) => c.rig === rig.id)
  const bad = checks.filter((c) => c.state === 'outside')
  const near = checks.filter((c) => c.state === 'near')
  const seam = checks.find((c) => c.id === 'seam')
  const travel = rig.travel
  const on = (change: (r: Rig) => void) => (d: Document) => change(d.rigs[index]!)
  const s = (v: number, q: 'length' | 'distance' | 'speed' = 'length') => showWithUnit(v, q, units)
  const kind = kindIn(rig)
  const noun = part.name.toLowerCase()
  const pieces = info
    ? `${info.count} ${info.count === 1 ? noun : noun + (/(s|x|ch|sh)$/.test(noun) ? 'es' : 's')}`
    : ''
  const context = { rig, index, doc, info, pieces, seam: seam?.value, show: s }
  const steps: RecipeStep[] = [
    [
      'path',
      'Path',
      pathInfo
        ? `${path.name}: ${shapeForms[shapeKind(path.shape)].name.toLowerCase()}, ${pathInfo.closed ? 'closed' : 'open'}, ${s(pathInfo.length, 'distance')}`
        : path.name,
      <Box key="p" sx={{ display: 'grid', gap: 1.25 }}>
        <Pick
          label="Runs on"
          value={rig.path}
          options={doc.paths.map((p) => p.id)}
          names={Object.fromEntries(doc.paths.map((p) => [p.id, p.name]))}
          onChange={(v) =>
            edit(
              'change the path',
              on((r) => void (r.path = v)),
            )
          }
        />
        <PathFields path={path} index={pathAt} />
      </Box>,
    ],
    [
      'part',
      'Part',
      `${part.name}, forward ${part.forward ?? '+z'}, up ${part.up ?? '+y'}`,
      <Box key="a" sx={{ display: 'grid', gap: 1.25 }}>
        <Pick
          label="Made of"
          value={rig.part}
          options={doc.parts.map((p) => p.id)}
          names={Object.fromEntries(doc.parts.map((p) => [p.id, p.name]))}
          onChange={(v) =>
            edit(
              'change the part',
              on((r) => void (r.part = v)),
            )
          }
        />
        <PartFields part={part} index={partAt} />
        {!kind.plain && <TintFields rig={rig} index={index} />}
      </Box>,
    ],
    ...kind.steps(context),
    [
      'facing',
      'Facing',
      `Up: ${rig.facing.mode === 'loopside' && rig.facing.inward ? 'into the loop' : facingNames[rig.facing.mode]}${rig.facing.turns ? `, ${rig.facing.turns} turns` : ''}${rig.facing.rollAt?.length ? `, ${rig.facing.rollAt.length} roll beads` : ''}`,
      <FacingStep key="f" rig={rig} index={index} />,
    ],
    ...(kind.after?.(context) ?? []),
    [
      'travel',
      'Travel',
      sourceSentence(travel, doc, s),
      <TravelStep key="t" rig={rig} index={index} more={kind.travels?.(rig, index)} />,
    ],
    ['check', 'Check', inShort(checks, checked, waits), null],
    ['deliver', 'Deliver', `Bake every frame ${doc.range.first}–${doc.range.last}`, null],
  ]
  const faulty = fault?.faults?.map((f) => f.address) ?? []
  return (
    <Column>
      <Head kind="rig" id={rig.id} name={rig.name} note={rigForms[kindOf(rig)].name} />
      {fault && <FaultNote />}
      <Box component="ol" sx={{ listStyle: 'none', m: 0, p: 0, position: 'relative' }}>
        {steps.map(([id, title, sentence, body], i) => (
          <Step
            key={id}
            number={i + 1}
            title={title}
            sentence={sentence}
            last={i === steps.length - 1}
            open={openStep === id && body !== null}
            tone={
              id === 'check' && bad.length
                ? 'bad'
                : id === 'check' && near.length
                  ? 'near'
                  : faulty.some(
                        (a) =>
                          a.startsWith(`rigs[${index}].${id}`) ||
                          kind.fields[id]?.some((f) => a.startsWith(`rigs[${index}].${kindOf(rig)}.${f}`)) ||
                          (id === 'path' && a.startsWith(`paths[${pathAt}]`)) ||
                          (id === 'part' && a.startsWith(`parts[${partAt}]`)),
                      )
                    ? 'bad'
                    : undefined
            }
            onToggle={() =>
              body === null
                ? useBench.setState({ panel: id as 'check' | 'deliver' })
                : useBench.setState({ openStep: openStep === id ? '' : id })
            }
          >
            {body}
          </Step>
        ))}
      </Box>
    </Column>
  )
}

function Step({
  number,
  title,
  sentence,
  open,
  tone,
  last,
  onToggle,
  children,
}: {
  number: number
  title: string
  sentence: string
  open: boolean
  tone?: 'bad' | 'near'
  last: boolean
  onToggle: () => void
  children: React.ReactNode
}) {
  const { roles } = useTheme()
  const ring = tone === 'bad' ? roles.red : tone === 'near' ? roles.amber : open ? roles.kelp : roles.border
  const text = tone === 'bad' ? roles.redText : tone === 'near' ? roles.amberText : roles.secondary
  return (
    <Box
      component="li"
      sx={{
        position: 'relative',
        background: open ? roles.raised : 'transparent',
        borderTop: `1px solid ${open ? roles.rule : 'transparent'}`,
        borderBottom: `1px solid ${open ? roles.rule : 'transparent'}`,
        // The thread on which the step beads hang.
        '&::before': {
          content: '""',
          position: 'absolute',
          left: 25.5,
          top: number === 1 ? 16 : 0,
          bottom: last ? 'auto' : 0,
          height: last ? 10 : 'auto',
          width: '1px',
          background: roles.border,
        },
      }}
    >
      <Box
        component="button"
        type="button"
        aria-expanded={children === null ? undefined : open}
        data-step={title.toLowerCase()}
        onClick={onToggle}
        sx={{
          position: 'relative',
          display: 'flex',
          width: '100%',
          textAlign: 'left',
          alignItems: 'flex-start',
          gap: 1.25,
          px: 2,
          py: '3px',
          minHeight: open ? 28 : 40,
          border: 0,
          background: 'none',
          color: 'inherit',
          font: 'inherit',
          cursor: 'pointer',
        }}
      >
        <Box
          sx={{
            width: 20,
            height: 20,
            flexShrink: 0,
            borderRadius: '50%',
            border: `1px solid ${ring}`,
            background: open
              ? roles.kelp
              : tone === 'bad'
                ? roles.redTint
                : tone === 'near'
                  ? roles.amberTint
                  : roles.paper,
            color: open ? roles.paper : tone ? text : roles.secondary,
            display: 'grid',
            placeItems: 'center',
            font: `500 11px/1 'IBM Plex Mono', monospace`,
            mt: '-1px',
          }}
        >
          {number}
        </Box>
        <Box sx={{ flex: 1, minWidth: 0 }}>
          <Box
            sx={{
              fontSize: 13,
              lineHeight: '18px',
              fontWeight: open ? 600 : 500,
              color: open ? roles.kelpText : roles.ink,
            }}
          >
            {title}
          </Box>
          {!open && (
            <Box
              sx={{
                color: text,
                fontWeight: tone ? 600 : 400,
                overflow: 'hidden',
                textOverflow: 'ellipsis',
                whiteSpace: 'nowrap',
              }}
            >
              {sentence}
            </Box>
          )}
        </Box>
        {open ? (
          <ExpandMore sx={{ fontSize: 16, color: roles.secondary, mt: '1px' }} />
        ) : (
          <Check sx={{ fontSize: 16, color: roles.secondary, mt: '1px' }} />
        )}
      </Box>
      {open && <Box sx={{ pl: '46px', pr: 2, pb: 1.25, pt: 0.25 }}>{children}</Box>}
    </Box>
  )
}
