import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import { useTheme } from '@mui/material/styles'
import { addRider, addTrain, addTug } from '../../core/add'
import { addFixture } from '../../core/imports'
import type { Part, Path, Rig } from '../../core/page.generated'
import { useBench } from '../../stores/bench'
import { countPoints } from './CarrierFields'

/** The rigs that stand on a path, and what else can be put there. */
export function PathUses({ path, index }: { path: Path; index: number }) {
  const doc = useBench((b) => b.doc)!
  const edit = useBench((b) => b.edit)
  const select = useBench((b) => b.select)
  const users = doc.rigs.filter((r) => r.path === path.id)
  return (
    <Uses by={users}>
      <Button
        variant={users.length ? 'outlined' : 'contained'}
        onClick={() => {
          let id = ''
          edit(
            'add a train',
            (d) => void (id = addTrain(d, d.paths[index]!, useBench.getState().answer?.readout.paths[index]?.length)),
          )
          select({ kind: 'rig', id })
          useBench.setState({ openStep: 'spacing' })
        }}
      >
        Put a train on this path
      </Button>
      <Button
        variant="outlined"
        onClick={() => {
          let id = ''
          edit('add a rider', (d) => void (id = addRider(d, d.paths[index]!)))
          select({ kind: 'rig', id })
          useBench.setState({ openStep: 'lead' })
        }}
      >
        Put a rider on this path
      </Button>
      {countPoints(doc, path.id) > 0 && (
        <Button
          variant="outlined"
          onClick={() => {
            let id = ''
            const held = useBench.getState().point ?? 0
            edit('add a handle', (d) => void (id = addTug(d, path.id, held + 1)))
            select({ kind: 'tug', id })
          }}
        >
          Add a handle that pulls{' '}
          {useBench.getState().point === null ? 'these points' : `point ${useBench.getState().point! + 1}`}
        </Button>
      )}
    </Uses>
  )
}

/** The rigs that are made of a part, and its stand in the scene. */
export function PartUses({ part }: { part: Part }) {
  const rigs = useBench((b) => b.doc?.rigs) ?? []
  const edit = useBench((b) => b.edit)
  const select = useBench((b) => b.select)
  return (
    <Uses by={rigs.filter((r) => r.part === part.id)}>
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
    </Uses>
  )
}

function Uses({ by, children }: { by: readonly Rig[]; children: React.ReactNode }) {
  const { roles } = useTheme()
  return (
    <Box sx={{ borderTop: `1px solid ${roles.rule}`, pt: 1.25, display: 'grid', gap: 1 }}>
      {by.length > 0 && (
        <Box sx={{ color: roles.secondary, fontSize: 11 }}>Used by {by.map((u) => u.name).join(', ')}.</Box>
      )}
      {children}
    </Box>
  )
}
