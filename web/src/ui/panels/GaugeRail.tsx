import Box from '@mui/material/Box'
import { useTheme } from '@mui/material/styles'
import { checkWords } from '../../core/forms'
import type { Result } from '../../core/page.generated'
import { useBench } from '../../stores/bench'
import { chosenRig, waitsFor } from '../../stores/chosen'
import { figure, showCheck, toneOf } from './checks'
import { mono, unseen } from '../../look/theme'

/** One gauge a check: a thread with its band of tolerance and a bead on it. */
export function GaugeRail() {
  const { roles } = useTheme()
  const rig = useBench((b) => chosenRig(b)?.rig)
  const all = useBench((b) => b.checks)
  const checks = all.filter((c) => c.rig === rig?.id)
  const { seen, of, looked } = useBench((b) => b.checked)
  const waits = useBench((b) => waitsFor(b, rig?.id))
  const whole = seen > 0 && seen >= of
  // What was measured is of the picture that stays, not of the edit that cannot be shown.
  const stays = useBench((b) => !!b.fault)
  const outside = checks.filter((c) => c.state === 'outside').length
  const near = checks.filter((c) => c.state === 'near').length
  return (
    <Box
      component="section"
      aria-label="Checks"
      sx={{
        height: '100%',
        display: 'flex',
        flexDirection: 'column',
        background: roles.paper,
        borderLeft: `1px solid ${roles.rule}`,
        overflowY: 'auto',
        scrollbarWidth: 'thin',
      }}
    >
      <Box sx={{ flex: 'none', display: 'flex', alignItems: 'baseline', px: 1.5, pt: 1, pb: 0.25 }}>
        <Box component="h2" sx={{ typography: 'h3', m: 0, flex: 1 }}>
          Checks
        </Box>
        <Box
          component="span"
          sx={{ fontWeight: 600, color: outside ? roles.redText : near ? roles.amberText : roles.kelpText }}
        >
          {checks.length === 0 || stays
            ? ''
            : outside
              ? `${outside} outside`
              : near
                ? `${near} near`
                : whole
                  ? 'all in'
                  : 'so far in'}
        </Box>
      </Box>
      {checks.length > 0 && (
        // It stays when all frames have been looked at, so that nothing moves under a press.
        <Box
          role="status"
          data-testid="checked"
          sx={{ flex: 'none', px: 1.5, pb: 0.5, fontSize: 11, lineHeight: '14px', color: roles.secondary }}
        >
          {stays
            ? 'Of the last that could be shown'
            : seen === 0
              ? 'Measuring anew…'
              : whole
                ? `all ${of} frames`
                : `${Math.max(looked, seen)} of ${of} frames`}
          <Box sx={{ mt: '3px', height: 2, background: roles.rule }}>
            <Box
              sx={{ height: 2, width: `${of ? (100 * Math.max(looked, seen)) / of : 0}%`, background: roles.slate }}
            />
          </Box>
        </Box>
      )}
      {checks.length === 0 && (
        <Box sx={{ px: 1.5, color: roles.secondary, fontSize: 11 }}>
          {rig
            ? waits
              ? 'Measured when it is simulated.'
              : 'Measuring…'
            : 'Choose a rig to see what is measured of it.'}
        </Box>
      )}
      {checks.map((c) => (
        <Gauge key={c.id} result={c} />
      ))}
    </Box>
  )
}

/** A number without decimals where it has three digits before them: the rail is narrow. */
const short = (value: string) => value.replace(/^([−-]?\d{3,})\.\d+$/, '$1')

const shortTolerance = (tolerance: string) => tolerance.replace(/(\d{2,})\.\d+$/, '$1')

/** The tolerance beside a figure, with a sign for its word where both would not fit: pixels by the letters' widths. */
function fitting(tolerance: string, value: string, unit: string) {
  const whole = shortTolerance(tolerance)
  return 9 * value.length + 7 * unit.length + 6.6 * whole.length + 8 > 108 ? whole.replace('max ', '≤') : whole
}

function Gauge({ result: r }: { result: Result }) {
  const { roles } = useTheme()
  const units = useBench((b) => b.doc?.units) ?? 'mm'
  const shown = useBench((b) => b.panel === 'check' && b.shownCheck === r.id)
  const { value, unit, tolerance } = figure(r, units)
  const tone = toneOf(r, roles)
  // The band takes the middle of the thread; past it the bead goes on more slowly
  // the further out it is, so that it stays on the thread.
  const signed = r.unit === 'm' && tolerance.startsWith('±')
  const share = r.tolerance > 0 ? r.value / r.tolerance : r.value
  const reach = (s: number) => (Math.abs(s) <= 1 ? s * 36 : Math.sign(s) * (36 + 15 * (1 - 1 / Math.abs(s))))
  const bead = signed ? 54 + reach(share) : 4 + Math.min(share, 1) * 60 * (1 - 0.4 / Math.max(share, 1))
  return (
    <Box
      component="button"
      type="button"
      onClick={() => showCheck(r)}
      data-gauge={r.id}
      data-state={r.state}
      sx={{
        // Many gauges share a low rail; 51 is what three lines need.
        flex: '0 1 65px',
        minHeight: 51,
        display: 'flex',
        flexDirection: 'column',
        justifyContent: 'center',
        width: '100%',
        textAlign: 'left',
        px: 1.5,
        py: 0,
        border: 0,
        borderTop: `1px solid ${roles.rule}`,
        background: r.state !== 'inside' ? tone.tint : shown ? roles.tint : 'transparent',
        color: 'inherit',
        font: 'inherit',
        cursor: 'pointer',
        '&:hover': { background: r.state !== 'inside' ? tone.tint : roles.sunken },
      }}
    >
      <Box sx={{ display: 'flex', justifyContent: 'space-between' }}>
        <span style={{ fontWeight: 500 }}>{checkWords[r.id]?.name}</span>
        <span style={{ fontWeight: 600, color: tone.text }}>{r.word}</span>
        <Box component="span" sx={unseen}>
          {r.state} its tolerance,
        </Box>
      </Box>
      <Box sx={{ display: 'flex', alignItems: 'baseline', gap: 0.5 }}>
        <Box component="span" sx={{ font: `500 15px/20px ${mono}` }}>
          {short(value)}
        </Box>
        <Box component="span" sx={{ fontSize: 11, color: roles.secondary, flex: 1, whiteSpace: 'nowrap' }}>
          {unit.replace(' a frame', '/f')}
        </Box>
        <Box
          component="span"
          sx={{
            font: `11px/16px ${mono}`,
            color: roles.secondary,
            whiteSpace: 'nowrap',
          }}
        >
          {fitting(tolerance, short(value), unit.replace(' a frame', '/f'))}
        </Box>
      </Box>
      <svg width="108" height="10" style={{ display: 'block', marginTop: 1 }} aria-hidden>
        <line x1="0" x2="108" y1="5" y2="5" stroke={roles.rule} strokeWidth="1.4" />
        {signed ? (
          <line x1="18" x2="90" y1="5" y2="5" stroke={tone.line} strokeWidth="3" opacity="0.42" strokeLinecap="round" />
        ) : (
          <line x1="4" x2="4" y1="1" y2="9" stroke={roles.slate} strokeWidth="1.4" />
        )}
        <circle cx={bead} cy="5" r="3.6" fill={tone.line} stroke={roles.paper} strokeWidth="0.8" />
      </svg>
    </Box>
  )
}
