import Close from '@mui/icons-material/Close'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import IconButton from '@mui/material/IconButton'
import { useTheme } from '@mui/material/styles'
import { Choice } from '../fields/fields'
import { NumberField } from '../fields/NumberField'
import { useGround } from './groundEdits'

const row = { display: 'grid', gridTemplateColumns: '1fr 1fr 1fr 24px', gap: 0.75, alignItems: 'end' } as const

/** Humps, each with its place, its length and its height. */
export function Humps() {
  const { ground, change, sets } = useGround()
  const humps = ground.humps ?? []
  return (
    <>
      <Box component="h3" sx={{ typography: 'h3', m: 0 }}>
        Humps
      </Box>
      {humps.map((h, i) => (
        <Box key={i} role="group" aria-label={`Hump ${i + 1}`} sx={row}>
          <NumberField
            label="At z"
            at="ground/humps/*/z"
            value={h.z}
            quantity="distance"
            {...sets('move a hump', (g, v) => void (g.humps![i]!.z = v))}
          />
          <NumberField
            label="Length"
            at="ground/humps/*/length"
            value={h.length}
            quantity="distance"
            {...sets('set the length of a hump', (g, v) => void (g.humps![i]!.length = v))}
          />
          <NumberField
            label="Height"
            at="ground/humps/*/height"
            value={h.height}
            quantity="length"
            {...sets('set the height of a hump', (g, v) => void (g.humps![i]!.height = v))}
          />
          <Remove
            label={`Remove hump ${i + 1}`}
            onClick={() => change('take out a hump', (g) => void g.humps!.splice(i, 1))}
          />
        </Box>
      ))}
      <Button
        variant="outlined"
        onClick={() => change('add a hump', (g) => void (g.humps ??= []).push({ z: 0, length: 4, height: 0.2 }))}
      >
        Add a hump
      </Button>
    </>
  )
}

/** Roughness over a stretch of the ground. */
export function Roughness() {
  const { ground, change, sets } = useGround()
  const rough = ground.rough
  return (
    <>
      <Box component="h3" sx={{ typography: 'h3', m: 0 }}>
        Roughness
      </Box>
      {rough ? (
        <>
          <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1 }}>
            <NumberField
              label="Amount"
              at="ground/rough/amount"
              value={rough.amount}
              quantity="length"
              {...sets('set the roughness', (g, v) => void (g.rough!.amount = v))}
            />
            <NumberField
              label="Grain"
              at="ground/rough/grain"
              value={rough.grain}
              quantity="length"
              {...sets('set the grain', (g, v) => void (g.rough!.grain = v))}
            />
            <NumberField
              label="From z"
              value={rough.from}
              quantity="distance"
              {...sets('set where it begins', (g, v) => void (g.rough!.from = v))}
            />
            <NumberField
              label="To z"
              value={rough.to}
              quantity="distance"
              {...sets('set where it ends', (g, v) => void (g.rough!.to = v))}
            />
            <NumberField
              label="Seed"
              value={rough.seed}
              quantity="count"
              onCommit={(v) => change('take another seed', (g) => void (g.rough!.seed = Math.round(v)))}
            />
          </Box>
          <Button
            variant="outlined"
            color="inherit"
            onClick={() => change('smooth the ground', (g) => void delete g.rough)}
          >
            Take it away
          </Button>
        </>
      ) : (
        <Button
          variant="outlined"
          onClick={() =>
            change('roughen the ground', (g) => void (g.rough = { seed: 1, amount: 0.05, grain: 0.8, from: -6, to: 6 }))
          }
        >
          Make it rough
        </Button>
      )}
    </>
  )
}

/** The points of the profile and how the ground goes between them. */
export function Points() {
  const { roles } = useTheme()
  const { ground, change, sets } = useGround()
  const points = ground.points ?? []
  return (
    <>
      <Box component="h3" sx={{ typography: 'h3', m: 0 }}>
        Points
      </Box>
      {points.length > 12 ? (
        <Box sx={{ fontSize: 11, color: roles.secondary }}>
          {points.length} points from z {points[0]!.z.toFixed(2)} m to {points.at(-1)!.z.toFixed(2)} m.
        </Box>
      ) : (
        points.map((p, i) => (
          <Box key={i} role="group" aria-label={`Point ${i + 1}`} sx={{ ...row, gridTemplateColumns: '1fr 1fr 24px' }}>
            <NumberField
              label="At z"
              value={p.z}
              quantity="distance"
              {...sets('move a point of the ground', (g, v) => void (g.points![i]!.z = v))}
            />
            <NumberField
              label="Height"
              value={p.height}
              quantity="length"
              {...sets('raise a point of the ground', (g, v) => void (g.points![i]!.height = v))}
            />
            <Remove
              label={`Remove point ${i + 1}`}
              onClick={() => change('take out a point', (g) => void g.points!.splice(i, 1))}
            />
          </Box>
        ))
      )}
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1 }}>
        <Button
          variant="outlined"
          onClick={() =>
            change('add a point to the ground', (g) => {
              const list = (g.points ??= [])
              if (list.length === 0) list.push({ z: -2, height: 0 }, { z: 2, height: 0.3 })
              else list.push({ z: list.at(-1)!.z + 1, height: list.at(-1)!.height })
            })
          }
        >
          Add a point
        </Button>
        <Button
          variant="outlined"
          color="inherit"
          disabled={points.length === 0}
          onClick={() => change('take out all points', (g) => void delete g.points)}
        >
          Remove all
        </Button>
      </Box>
      {points.length > 2 && (
        <Choice
          label="Between the points"
          value={ground.smooth ? 'smooth' : 'straight'}
          options={['straight', 'smooth'] as const}
          onChange={(v) => change(`go ${v} between points`, (g) => void (g.smooth = v === 'smooth' || undefined))}
        />
      )}
    </>
  )
}

function Remove({ label, onClick }: { label: string; onClick: () => void }) {
  return (
    <IconButton aria-label={label} title={label} onClick={onClick} sx={{ width: 24, height: 26 }}>
      <Close sx={{ fontSize: 16 }} />
    </IconButton>
  )
}
