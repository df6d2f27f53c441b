import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import { useTheme } from '@mui/material/styles'
import type { Document, Fixture } from '../../core/page.generated'
import { addPath } from '../../core/value'
import { useBench } from '../../stores/bench'
import { RidesOn } from './CarrierFields'
import { Choice, Pick, Vec3Field } from '../fields/fields'
import { NumberField } from '../fields/NumberField'
import { PartFields } from './PartFields'
import { threeFields } from '../../look/theme'

/** Where a fixture stands, what can be made on it, and its part. */
export function FixtureFields({ fixture, index }: { fixture: Fixture; index: number }) {
  const { roles } = useTheme()
  const edit = useBench((b) => b.edit)
  const preview = useBench((b) => b.preview)
  const parts = useBench((b) => b.doc?.parts) ?? []
  const partAt = parts.findIndex((p) => p.id === fixture.part)
  const part = parts[partAt]
  const of = (d: Document) => d.fixtures![index]!
  const post = part?.shape.post
  return (
    <Box sx={{ display: 'grid', gap: 1.25 }}>
      <Box sx={{ display: 'grid', gap: 1 }}>
        <Button variant="contained" onClick={() => useBench.getState().startDrawing(fixture.id)}>
          Draw a path on it
        </Button>
        <Button variant="outlined" onClick={() => useBench.getState().startEdges(fixture.id)}>
          Take a path from its edges
        </Button>
        {post && (
          <Button
            variant="outlined"
            onClick={() => {
              let id = ''
              edit('wind a helix round a post', (d) => {
                const turns = 3
                id = addPath(d, `Round ${fixture.name}`, {
                  helix: {
                    base: fixture.at,
                    radius: post.radius + 0.05,
                    ...(post.topRadius ? { endRadius: post.topRadius + 0.05 } : {}),
                    rise: Number((post.height / turns).toPrecision(4)),
                    turns,
                    hand: 'right',
                    axis: 'up',
                  },
                })
              })
              useBench.getState().select({ kind: 'path', id })
            }}
          >
            Wind a helix round it
          </Button>
        )}
      </Box>
      <Vec3Field
        label="Stands at"
        value={fixture.at}
        onPreview={(v) => preview((d) => void (of(d).at = v))}
        onCommit={(v) => edit(`move ${fixture.name}`, (d) => void (of(d).at = v))}
      />
      <Box sx={threeFields}>
        {(['heading', 'pitch', 'bank'] as const).map((k) => (
          <NumberField
            key={k}
            label={k[0]!.toUpperCase() + k.slice(1)}
            value={fixture[k] ?? 0}
            quantity="angle"
            onPreview={(v) => preview((d) => void (of(d)[k] = v))}
            onCommit={(v) => edit(`turn ${fixture.name}`, (d) => void (of(d)[k] = v))}
          />
        ))}
      </Box>
      <RidesOn kind="fixture" id={fixture.id} name={fixture.name} carrier={fixture.carrier} />
      <Choice
        label="When exporting"
        value={fixture.guide ? 'reference only' : 'exported'}
        options={['exported', 'reference only'] as const}
        onChange={(v) =>
          edit(`make ${fixture.name} ${v}`, (d) => void (of(d).guide = v === 'reference only' || undefined))
        }
      />
      <Box sx={{ borderTop: `1px solid ${roles.rule}`, pt: 1, display: 'grid', gap: 1.25 }}>
        <Pick
          label="Made of"
          value={fixture.part}
          options={parts.map((p) => p.id)}
          names={Object.fromEntries(parts.map((p) => [p.id, p.name]))}
          onChange={(v) => edit('change the part', (d) => void (of(d).part = v))}
        />
        {part && <PartFields part={part} index={partAt} />}
      </Box>
    </Box>
  )
}
