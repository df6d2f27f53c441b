import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import { useTheme } from '@mui/material/styles'
import { useEffect, useRef } from 'react'
import { checkWords } from '../../core/forms'
import { showWithUnit } from '../../core/units'
import { useBench } from '../../stores/bench'
import { chosenRig } from '../../stores/chosen'
import { figure, showCheck, toneOf } from './checks'
import { PanelHead } from './PanelHead'
import { Column } from '../recipe/RecipeParts'
import { Remedies } from './Remedies'
import { mono } from '../../look/theme'

/** All checks of the chosen rig: the number, where it is worst, what mends it. */
export function CheckPanel() {
  const { roles } = useTheme()
  const rig = useBench((b) => chosenRig(b)?.rig)
  const all = useBench((b) => b.checks)
  const shown = useBench((b) => b.shownCheck)
  const { seen, of, looked, waiting } = useBench((b) => b.checked)
  const units = useBench((b) => b.doc?.units) ?? 'mm'
  const checks = all.filter((c) => c.rig === rig?.id)
  // The one whose gauge was pressed is within sight, with what mends it.
  const chosen = useRef<HTMLDivElement>(null)
  useEffect(() => void chosen.current?.scrollIntoView({ block: 'nearest' }), [shown, rig?.id])
  return (
    <Column>
      <PanelHead title="Check" note={rig?.name} />
      {checks.length > 0 && (
        // As high in each state, so that nothing moves under a press when the results of all frames come.
        <Box sx={{ px: 2, pb: 1, minHeight: 40, fontSize: 11, color: roles.secondary }}>
          {seen === 0
            ? 'What is said here is of the document before the last edit; it is being measured anew.'
            : seen >= of
              ? `Looked at every frame of the range, ${of} in all.`
              : `A first look at ${seen} of ${of} frames; all of them are being looked at (${Math.max(looked, seen)}).`}
        </Box>
      )}
      {checks.length === 0 && (
        <Box sx={{ px: 2, color: roles.secondary }}>
          {rig && waiting.includes(rig.id)
            ? 'It is measured when all of its frames have been simulated.'
            : 'Choose a rig in the rack to see what is measured of it.'}
        </Box>
      )}
      {checks.map((r) => {
        const f = figure(r, units)
        const tone = toneOf(r, roles)
        const on = shown === r.id
        return (
          <Box
            key={r.id}
            ref={on ? chosen : undefined}
            sx={{
              borderTop: `1px solid ${roles.rule}`,
              background: on ? roles.raised : 'transparent',
              px: 2,
              py: 1.25,
            }}
          >
            <Box sx={{ display: 'flex', alignItems: 'baseline', gap: 1 }}>
              <Box sx={{ typography: 'h3', flex: 1 }}>{checkWords[r.id]?.name}</Box>
              <Box sx={{ font: `500 12px/16px ${mono}` }}>
                {f.value} {f.unit}
              </Box>
              <Box sx={{ fontWeight: 600, color: tone.text }}>{r.word}</Box>
            </Box>
            <Box sx={{ mt: 0.5 }}>{r.text}</Box>
            <Box sx={{ mt: 0.25, fontSize: 11, color: roles.secondary }}>
              {checkWords[r.id]?.means} Tolerance: {f.tolerance.replace('max', 'at most')}
              {f.unit && !f.unit.startsWith('of') ? ` ${f.unit}` : ''}.
            </Box>
            {r.where && r.state !== 'inside' && (
              <Button sx={{ mt: 0.5, px: 0.5 }} onClick={() => showCheck(r)}>
                Go to piece {r.where.piece} at {showWithUnit(r.where.distance, 'distance', units)}, frame{' '}
                {r.where.frame}
              </Button>
            )}
            {rig && <Remedies id={r.id} rig={rig.id} />}
          </Box>
        )
      })}
    </Column>
  )
}
