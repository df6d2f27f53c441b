import Check from '@mui/icons-material/ChevronRight'
import ExpandMore from '@mui/icons-material/ExpandMore'
import MoreHoriz from '@mui/icons-material/MoreHoriz'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import IconButton from '@mui/material/IconButton'
import Menu from '@mui/material/Menu'
import MenuItem from '@mui/material/MenuItem'
import { useTheme } from '@mui/material/styles'
import { useState } from 'react'
import type { Document, Rig } from '../api/page.generated'
import { dependants, remove } from '../core/remove'
import { showWithUnit } from '../core/units'
import { freeId, freeName, isKeyed, isRunning, shapeKind, shapeNames } from '../core/value'
import { chosenRig, useBench, type Kind } from '../stores/bench'
import { CheckPanel } from './CheckPanel'
import { DeliverPanel } from './DeliverPanel'
import { NameField, Pick } from './fields'
import { FixtureFields } from './FixtureFields'
import { addFixture } from './ImportMesh'
import { PartFields } from './PartFields'
import { PathFields } from './PathFields'
import { addTrain } from './Rack'
import { FacingStep, SeatStep, SpacingStep } from './RigSteps'
import { TravelStep } from './TravelStep'

/** The chosen thing as a column of numbered steps, or a panel in its place. */
export function Recipe() {
  const { roles } = useTheme()
  const panel = useBench((b) => b.panel)
  const selected = useBench((b) => b.selected)
  const rig = useBench((b) => chosenRig(b)?.rig)
  const index = useBench((b) => chosenRig(b)?.index ?? -1)
  const path = useBench((b) => b.doc?.paths.find((p) => b.selected?.kind === 'path' && p.id === b.selected.id))
  const part = useBench((b) => b.doc?.parts.find((p) => b.selected?.kind === 'part' && p.id === b.selected.id))
  const fixture = useBench((b) =>
    b.doc?.fixtures?.find((f) => b.selected?.kind === 'fixture' && f.id === b.selected.id),
  )
  const doc = useBench((b) => b.doc)
  const edit = useBench((b) => b.edit)
  const select = useBench((b) => b.select)
  if (!doc) return null
  if (panel === 'check') return <CheckPanel />
  if (panel === 'deliver') return <DeliverPanel />
  if (rig) return <RigRecipe rig={rig} index={index} />
  if (fixture) {
    return (
      <Column>
        <Head kind="fixture" id={fixture.id} name={fixture.name} note="Fixture" />
        <FaultNote />
        <Box sx={{ px: 2, pb: 2 }}>
          <FixtureFields fixture={fixture} index={doc.fixtures!.indexOf(fixture)} />
        </Box>
      </Column>
    )
  }
  if (path || part) {
    const kind = selected!.kind
    const at = path ? doc.paths.indexOf(path) : doc.parts.indexOf(part!)
    const users = path ? doc.rigs.filter((r) => r.path === path.id) : doc.rigs.filter((r) => r.part === part!.id)
    return (
      <Column>
        <Head
          kind={kind}
          id={selected!.id}
          name={(path ?? part)!.name}
          note={path ? shapeNames[shapeKind(path.shape)] : 'Part'}
        />
        <FaultNote />
        <Box sx={{ px: 2, pb: 2, display: 'grid', gap: 1.5 }}>
          {path ? <PathFields path={path} index={at} /> : <PartFields part={part!} index={at} />}
          <Box sx={{ borderTop: `1px solid ${roles.rule}`, pt: 1.25, display: 'grid', gap: 1 }}>
            {users.length > 0 && (
              <Box sx={{ color: roles.secondary, fontSize: 11 }}>Used by {users.map((u) => u.name).join(', ')}.</Box>
            )}
            {part && (
              <Button
                variant="outlined"
                onClick={() => {
                  let id = ''
                  edit(`stand ${part.name} in the scene`, (d) => void (id = addFixture(d, part.name, part.id)))
                  select({ kind: 'fixture', id })
                }}
              >
                Stand it in the scene
              </Button>
            )}
            {path && (
              <Button
                variant={users.length ? 'outlined' : 'contained'}
                onClick={() => {
                  let id = ''
                  edit('add a train', (d) => void (id = addTrain(d, d.paths[at]!)))
                  select({ kind: 'rig', id })
                  useBench.setState({ openStep: 'spacing' })
                }}
              >
                Put a train on this path
              </Button>
            )}
          </Box>
        </Box>
      </Column>
    )
  }
  return (
    <Column>
      <Box sx={{ p: 2, color: roles.secondary }}>
        <Box component="h2" sx={{ typography: 'h2', color: roles.ink, mt: 0, mb: 0.5 }}>
          Nothing chosen
        </Box>
        Choose something in the rack or the view. A new scene begins with a path: press Add, or draw one by clicking.
        <Button
          variant="contained"
          sx={{ mt: 1.5, display: 'block' }}
          onClick={() => useBench.getState().startDrawing()}
        >
          Draw a path
        </Button>
      </Box>
    </Column>
  )
}

const facingNames = {
  loopside: 'loopside',
  steady: 'steady',
  'least-twist': 'least twist',
  guide: 'towards a guide',
  turn: 'into the curve',
}

export function Column({ children }: { children: React.ReactNode }) {
  return (
    <Box sx={{ flex: 1, minHeight: 0, overflowY: 'auto', overflowX: 'hidden', scrollbarWidth: 'thin' }}>{children}</Box>
  )
}

function Head({ kind, id, name, note }: { kind: Kind; id: string; name: string; note: string }) {
  const { roles } = useTheme()
  const edit = useBench((b) => b.edit)
  const select = useBench((b) => b.select)
  const [menu, setMenu] = useState<HTMLElement | null>(null)
  const list = (d: Document): { id: string; name: string }[] =>
    kind === 'rig' ? d.rigs : kind === 'path' ? d.paths : kind === 'part' ? d.parts : d.fixtures!
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

function RigRecipe({ rig, index }: { rig: Rig; index: number }) {
  const units = useBench((b) => b.doc?.units) ?? 'mm'
  const doc = useBench((b) => b.doc)!
  const info = useBench((b) => b.answer?.readout.rigs[index])
  const allChecks = useBench((b) => b.checks)
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
  const noun = part.name.toLowerCase()
  const pieces = info
    ? `${info.count} ${info.count === 1 ? noun : noun + (/(s|x|ch|sh)$/.test(noun) ? 'es' : 's')}`
    : ''
  const steps: [string, string, string, React.ReactNode][] = [
    [
      'path',
      'Path',
      pathInfo
        ? `${path.name}: ${shapeNames[shapeKind(path.shape)].toLowerCase()}, ${pathInfo.closed ? 'closed' : 'open'}, ${s(pathInfo.length, 'distance')}`
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
      </Box>,
    ],
    [
      'seat',
      'Seat',
      `On its pivot, rigid${(rig.scale ?? 1) !== 1 ? `, scaled ${rig.scale}` : ''}`,
      <SeatStep key="s" rig={rig} index={index} />,
    ],
    [
      'spacing',
      'Spacing',
      info ? `${pieces}, pitch ${s(info.pitch)}${info.comesRound ? `, seam ${s(seam?.value ?? info.seam)}` : ''}` : '',
      <SpacingStep key="d" rig={rig} index={index} />,
    ],
    [
      'facing',
      'Facing',
      `Up: ${facingNames[rig.facing.mode]}${rig.facing.mode === 'loopside' ? (rig.facing.inward ? ', inward' : ', outward') : ''}${rig.facing.turns ? `, ${rig.facing.turns} turns` : ''}${rig.facing.rollAt?.length ? `, ${rig.facing.rollAt.length} roll beads` : ''}`,
      <FacingStep key="f" rig={rig} index={index} />,
    ],
    [
      'travel',
      'Travel',
      isKeyed(travel)
        ? `${travel.keys.length} ${travel.keys.length === 1 ? 'key' : 'keys'}, then ${travel.after ?? 'hold'}`
        : isRunning(travel)
          ? `Runs at ${s(travel.speed, 'speed')}`
          : `By hand, at ${s(travel, 'distance')}`,
      <TravelStep key="t" rig={rig} index={index} />,
    ],
    [
      'check',
      'Check',
      bad.length
        ? `${checks.length} checks, ${bad.length} outside: ${bad[0]!.id} ${bad[0]!.word}`
        : near.length
          ? `${checks.length} checks, 1 near: ${near[0]!.id}`
          : `${checks.length} checks, all inside`,
      null,
    ],
    ['deliver', 'Deliver', `Bake every frame ${doc.range.first}–${doc.range.last}`, null],
  ]
  const faulty = fault?.faults?.map((f) => f.address) ?? []
  return (
    <Column>
      <Head kind="rig" id={rig.id} name={rig.name} note="Train" />
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
      {refused && (
        <Button size="small" color="inherit" sx={{ mt: 0.5, px: 0.5 }} onClick={() => useBench.getState().putBack()}>
          Put back what was there
        </Button>
      )}
    </Box>
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
