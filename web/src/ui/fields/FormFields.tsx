import type { Field, Vec3 } from '../../core/forms'
import type { Quantity } from '../../core/units'
import { Choice, Pair, Pick, Vec3Field } from './fields'
import { useClock } from '../../stores/clock'
import { AutoField } from './AutoField'
import { NumberField } from './NumberField'

/** Fields of one number. */
const isNumber = (f: Field): f is Field & { kind: Quantity } =>
  !['place', 'choice', 'switch', 'moving'].includes(f.kind)

const whole = (f: Field, v: number) => (f.kind === 'count' || f.kind === 'frame' ? Math.round(v) : v)

/** A number that was set; 0 is none but for frames. */
const set = (f: Field, v: number | undefined) => (f.kind === 'frame' ? v : v || undefined)

type Put = (key: string, value: unknown) => void

/** Draws the fields of a shape or step: numbers two abreast, the rest below one another. */
export function FormFields({
  fields,
  value,
  onPreview,
  onCommit,
  moving,
  length,
}: {
  /** Of the path, metres. */
  length?: number
  /** Draws a value that may move. */
  moving?: (f: Field) => React.ReactNode
  fields: Field[]
  value: object
  onPreview: Put
  onCommit: (key: string, value: unknown, label: string) => void
}) {
  const of = value as Record<string, unknown>
  const now = useClock((c) => c.frame)
  const numbers = fields.filter((f) => f.kind === 'moving' || isNumber(f))
  return (
    <>
      {numbers.length > 0 && (
        <Pair>
          {numbers.map((f) =>
            f.kind === 'moving' ? (
              moving?.(f)
            ) : !isNumber(f) ? null : f.auto ? (
              <AutoField
                key={f.key}
                label={f.label}
                word={f.auto}
                value={set(f, of[f.key] as number | undefined)}
                start={f.kind === 'frame' ? now : ((f.like ? (of[f.like] as number) : length) ?? 1)}
                quantity={f.kind}
                unit={f.unit}
                min={f.min}
                max={f.max}
                onSet={(v) => onCommit(f.key, v, f.label)}
                onPreview={(v) => onPreview(f.key, whole(f, v))}
                onCommit={(v) => onCommit(f.key, set(f, whole(f, v)), f.label)}
              />
            ) : (
              <NumberField
                key={f.key}
                label={f.label}
                value={(of[f.key] as number | undefined) ?? (f.fallback as number | undefined) ?? 0}
                quantity={f.kind}
                unit={f.unit}
                min={f.min}
                max={f.max}
                onPreview={(v) => onPreview(f.key, whole(f, v))}
                onCommit={(v) => onCommit(f.key, whole(f, v), f.label)}
              />
            ),
          )}
        </Pair>
      )}
      {fields.map((f) => {
        switch (f.kind) {
          case 'place':
            return (
              <Vec3Field
                key={f.key}
                label={f.label}
                value={of[f.key] as Vec3}
                onPreview={(v) => onPreview(f.key, v)}
                onCommit={(v) => onCommit(f.key, v, f.label)}
              />
            )
          case 'switch':
            return (
              <Choice
                key={f.key}
                label={f.label}
                value={of[f.key] ? f.on! : f.off!}
                options={[f.off!, f.on!]}
                onChange={(v) => onCommit(f.key, v === f.on || undefined, f.label)}
              />
            )
          case 'choice':
            if (f.options!.length > 3) {
              return (
                <Pick
                  key={f.key}
                  inline
                  label={f.label}
                  value={(of[f.key] as string | undefined) ?? (f.fallback as string)}
                  options={f.options!}
                  names={f.names}
                  onChange={(v) => onCommit(f.key, v || undefined, f.label)}
                />
              )
            }
            return (
              <Choice
                key={f.key}
                label={f.label}
                value={(of[f.key] as string | undefined) ?? (f.fallback as string)}
                options={f.options!}
                names={f.names}
                onChange={(v) => onCommit(f.key, v, f.label)}
              />
            )
          default:
            return null
        }
      })}
    </>
  )
}
