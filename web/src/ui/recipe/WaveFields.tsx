import type { Step } from '../../core/page.generated'
import { useBench } from '../../stores/bench'
import { BeadCurve } from '../fields/BeadCurve'
import { Pick } from '../fields/fields'

/** How strong a wave is along the path, and what its beads go along with. */
export function WaveFields({
  step,
  onChange,
}: {
  step: Step
  onChange: (change: (s: Step) => void, label: string) => void
}) {
  const rigs = useBench((b) => b.doc?.rigs) ?? []
  const wave = step.wave!
  const length =
    useBench((b) => b.answer?.readout.paths.find((p) => p.steps?.some((s) => s.kind === 'wave'))?.length) ?? 1
  return (
    <>
      <BeadCurve
        label="Share of the swing along the path"
        beads={(wave.amount ?? []).map((b) => [b.at, b.share])}
        from={0}
        to={length}
        top={1.5}
        quantity="distance"
        onChange={(beads) =>
          onChange(
            (s) => void (s.wave!.amount = beads.length ? beads.map(([at, share]) => ({ at, share })) : undefined),
            'shape the swing',
          )
        }
      />
      <Pick
        inline
        label="The share moves with"
        value={wave.with ?? ''}
        options={['', ...rigs.map((r) => r.id)]}
        names={{ '': 'the path', ...Object.fromEntries(rigs.map((r) => [r.id, r.name])) }}
        onChange={(v) => onChange((s) => void (s.wave!.with = v || undefined), 'let the beads go along')}
      />
    </>
  )
}
