import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import { useTheme } from '@mui/material/styles'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { aboutQuery, documentUrl } from '../../api/client'
import { counted } from '../../core/units'
import { playsOnce } from '../../core/value'
import { useBench } from '../../stores/bench'
import { useClock } from '../../stores/clock'
import { keepWish, lastWish, useDeliveries, type Wish } from '../../stores/deliver'
import { Pair } from '../fields/fields'
import { NumberField } from '../fields/NumberField'
import { Column } from '../recipe/RecipeParts'
import { failing } from './checks'
import { Deliveries } from './Deliveries'
import { DeliverChoices, Tick } from './DeliverChoices'
import { GroupedPick } from './GroupedPick'
import { PanelHead } from './PanelHead'
import { asked, choices } from './wishes'

/** Bakes to open formats, for whoever goes on with it; several files may be under way at once. */
export function DeliverPanel() {
  const { roles } = useTheme()
  const doc = useBench((b) => b.doc)!
  const id = useBench((b) => b.id)
  const fault = useBench((b) => b.fault)
  const checks = useBench((b) => b.checks)
  const saved = useBench((b) => (b.unsaved === 0 && b.save === 'saved' ? b.revision : null))
  const frame = useClock((c) => c.frame)
  const about = useQuery(aboutQuery).data
  const figures = useBench((b) => b.answer?.readout.rigs.some((r) => r.jointed)) ?? false
  const bodies = useBench((b) => b.answer?.readout.rigs.some((r) => r.body)) ?? false
  const formats = (about?.bakes ?? []).filter((f) => !f.only || figures || (bodies && f.bodies))
  const destinations = about?.destinations ?? []
  const [wish, setWish] = useState(() => lastWish(id))
  const start = useDeliveries((d) => d.start)
  const error = useDeliveries((d) => d.error)

  const format = formats.find((f) => f.ending === wish.format) ?? formats[0]
  const goes = destinations.find((d) => d.id === wish.goes)
  const first = wish.first ?? doc.range.first
  const last = wish.last ?? doc.range.last
  const loops = !playsOnce(doc) && last === doc.range.last && first < last
  const to = loops && wish.closing ? last + 1 : last
  const step = Math.max(wish.step ?? 1, 1)
  const rigs = doc.rigs.filter((r) => !wish.without.includes(r.id))
  const outside = checks.filter((c) => c.state === 'outside' && rigs.some((r) => r.id === c.rig))
  const frames = format?.still ? 1 : Math.floor((to - first) / step) + 1

  function change(by: Partial<Wish>) {
    const next = { ...wish, ...by }
    setWish(next)
    keepWish(id, next)
  }
  /** A choice of one's own is no longer that of a destination. */
  const own = (by: Partial<Wish>) => change({ goes: '', ...by })

  function goFor(to: string) {
    const d = destinations.find((d) => d.id === to)
    if (!d) return change({ goes: '' })
    const cleared = Object.fromEntries(choices.map((k) => [k, undefined])) as Partial<Wish>
    change({
      ...cleared,
      ...d.choices,
      density: d.choices.density ?? 1000,
      solver: !!d.choices.density,
      goes: to,
      format: d.formats.includes(wish.format) ? wish.format : d.formats[0]!,
    })
  }

  return (
    <Column>
      <PanelHead title="Deliver" note={doc.name} />
      {/* What is scrolled to, as by the keyboard, stays clear of the button at the bottom. */}
      <Box sx={{ px: 2, pb: 2, display: 'grid', gap: 1.25, '& *': { scrollMarginBottom: '48px' } }}>
        <Button variant="outlined" onClick={() => useBench.setState({ panel: 'film' })}>
          Film and stills
        </Button>
        <GroupedPick
          label="Who goes on with it"
          value={wish.goes}
          options={[
            { value: '', name: 'My own choices', group: '' },
            ...destinations.map((d) => ({ value: d.id, name: d.name, group: '' })),
          ]}
          onChange={goFor}
        />
        {goes && <Box sx={{ fontSize: 11, color: roles.secondary }}>{goes.text}</Box>}
        <GroupedPick
          label="Format"
          value={format?.ending ?? ''}
          options={formats.map((f) => ({ value: f.ending, name: f.name, group: f.group }))}
          onChange={(ending) => change({ format: ending, goes: goes?.formats.includes(ending) ? wish.goes : '' })}
        />
        <Box sx={{ fontSize: 11, color: roles.secondary }}>{format?.text}</Box>
        <Pair>
          <NumberField
            label="From frame"
            value={first}
            quantity="count"
            onCommit={(v) => change({ first: v === doc.range.first ? undefined : v })}
            max={last}
          />
          <NumberField
            label="To frame"
            value={last}
            quantity="count"
            onCommit={(v) => change({ last: v === doc.range.last ? undefined : v })}
            min={first}
          />
        </Pair>
        <Pair>
          {(
            [
              [`Frame ${frame} alone`, frame, frame],
              ['The whole range', undefined, undefined],
            ] as const
          ).map(([name, a, b]) => (
            <Button
              key={name}
              variant="outlined"
              color="inherit"
              disabled={wish.first === a && wish.last === b}
              onClick={() => change({ first: a, last: b })}
            >
              {name}
            </Button>
          ))}
        </Pair>
        {!format?.still && (
          <NumberField
            label="Every n-th frame"
            value={step}
            quantity="count"
            min={1}
            max={1000}
            onCommit={(v) => change({ step: v })}
          />
        )}
        {loops && !format?.still && (
          <Tick
            on={!!wish.closing}
            onChange={(closing) => own({ closing })}
            hint="The frame after the last. Where the loop meets it shows the first again, and players run through the whole loop."
            label={`The closing frame too, ${last + 1}`}
          />
        )}
        <Box role="group" aria-label="Rigs to bake" sx={{ display: 'grid', gap: 1.25 }}>
          {doc.rigs.map((r) => (
            <Tick
              key={r.id}
              on={!wish.without.includes(r.id)}
              onChange={(on) =>
                change({ without: on ? wish.without.filter((x) => x !== r.id) : [...wish.without, r.id] })
              }
              label={r.name}
            />
          ))}
          {doc.rigs.length === 0 && <Box sx={{ color: roles.secondary }}>There is no rig to bake yet.</Box>}
        </Box>
        {format && <DeliverChoices wish={wish} format={format} first={first} change={own} />}
        {outside.length > 0 && (
          <Box sx={{ p: 1, borderRadius: '6px', background: roles.redTint, color: roles.redText, fontSize: 11 }}>
            {outside.length === 1 ? 'One check fails' : `${outside.length} checks fail`}:{' '}
            {outside.map((c) => failing(c, doc.units)).join(', ')}. You can still export.
          </Box>
        )}
        <Button
          variant="contained"
          // Within reach however long the choices are.
          sx={(t) => {
            // What scrolls below it is covered all round.
            const cover = { boxShadow: `0 0 0 8px ${t.roles.paper}` }
            return { position: 'sticky', bottom: 8, zIndex: 1, ...cover, '&:hover': cover }
          }}
          disabled={rigs.length === 0 || !!fault || !format}
          onClick={() =>
            format &&
            void start(
              id,
              doc,
              saved,
              wish,
              asked(
                wish,
                format,
                rigs.map((r) => r.id),
              ),
            )
          }
        >
          Bake {counted(frames, 'frame')}
        </Button>
        {error && (
          <Box role="alert" sx={{ color: roles.redText, fontSize: 11 }}>
            {error}
          </Box>
        )}
        <Deliveries scene={id} />
        <Box sx={{ borderTop: `1px solid ${roles.rule}`, pt: 1.25 }}>
          <Button variant="outlined" fullWidth href={documentUrl(id)} download>
            Save the scene document
          </Button>
          <Box sx={{ mt: 0.75, fontSize: 11, color: roles.secondary }}>
            The scene as JSON, to keep, to send on, or for the bead command on a farm.
          </Box>
        </Box>
      </Box>
    </Column>
  )
}
