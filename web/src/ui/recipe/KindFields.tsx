import { rigForms } from '../../core/forms'
import { slotsOf } from '../../core/slots'
import { kindOf } from '../../core/rigs'
import { useBench } from '../../stores/bench'
import { FormFields } from '../fields/FormFields'
import { SlotField } from '../fields/SlotField'
import { useRig, type StepProps } from './RigSteps'

/** The fields that a rig has by its kind, as the core states them. */
export function KindFields({ rig, index, only }: StepProps & { only?: string[] }) {
  const { edit, sets } = useRig(index)
  const doc = useBench((b) => b.doc)!
  const kind = kindOf(rig)
  const slots = slotsOf(doc, 'rig', rig.id)
  const put = (r: typeof rig, key: string, v: unknown) => void ((r[kind] as Record<string, unknown>)[key] = v)
  return (
    <FormFields
      fields={rigForms[kind].fields.filter((f) => !only || only.includes(f.key))}
      value={rig[kind]!}
      moving={(f) => {
        const slot = slots.find((s) => s.key === f.key)
        return slot && <SlotField key={f.key} slot={slot} label={f.label} />
      }}
      onPreview={(key, v) => sets('', (r, x: unknown) => put(r, key, x)).onPreview(v)}
      onCommit={(key, v, label) => edit(`set ${label.toLowerCase()}`, (d) => put(d.rigs[index]!, key, v))}
    />
  )
}
