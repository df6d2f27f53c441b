import Box from '@mui/material/Box'
import Checkbox from '@mui/material/Checkbox'
import { useTheme } from '@mui/material/styles'
import TextField from '@mui/material/TextField'
import { useState } from 'react'
import type { JointReadout } from '../../core/page.generated'

/** The joints of a figure as they hang from one another, to look at and to choose from. */
export function JointTree({
  joints,
  chosen,
  onChoose,
}: {
  joints: JointReadout[]
  chosen?: string[]
  onChoose?: (names: string[]) => void
}) {
  const { roles } = useTheme()
  const [find, setFind] = useState('')
  const depth: number[] = []
  for (const j of joints) depth.push(j.parent < 0 ? 0 : depth[j.parent]! + 1)
  const wanted = find.trim().toLowerCase()
  const rows = joints.map((j, i) => ({ ...j, depth: depth[i]! })).filter((j) => j.name.toLowerCase().includes(wanted))
  return (
    <Box sx={{ display: 'grid', gap: 0.5 }}>
      <TextField
        size="small"
        placeholder={`Find among ${joints.length} joints`}
        value={find}
        onChange={(e) => setFind(e.target.value)}
        slotProps={{ htmlInput: { 'aria-label': 'Find a joint', style: { fontSize: 12, padding: '4px 8px' } } }}
      />
      <Box
        role="group"
        aria-label="Joints"
        tabIndex={0}
        sx={{ maxHeight: 150, overflow: 'auto', border: `1px solid ${roles.rule}`, borderRadius: 1, py: 0.5 }}
      >
        {rows.map((j) => (
          <Box
            key={j.name}
            component={onChoose ? 'label' : 'div'}
            sx={{
              display: 'flex',
              alignItems: 'center',
              fontSize: 12,
              lineHeight: '20px',
              pl: 1 + (wanted ? 0 : Math.min(j.depth, 8) * 1.25),
            }}
          >
            {onChoose && (
              <Checkbox
                size="small"
                sx={{ p: 0, mr: 0.75, '& svg': { fontSize: 15 } }}
                checked={chosen!.includes(j.name)}
                onChange={(e) =>
                  onChoose(e.target.checked ? [...chosen!, j.name] : chosen!.filter((n) => n !== j.name))
                }
              />
            )}
            {j.name}
          </Box>
        ))}
        {rows.length === 0 && (
          <Box sx={{ fontSize: 11, color: roles.secondary, pl: 1 }}>No joint has “{find}” in its name.</Box>
        )}
      </Box>
    </Box>
  )
}
