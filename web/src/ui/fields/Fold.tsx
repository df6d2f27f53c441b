import Box from '@mui/material/Box'
import { useTheme } from '@mui/material/styles'

/** Fields that are folded away under their title until they are wanted. */
export function Fold({ title, open, children }: { title: string; open?: boolean; children: React.ReactNode }) {
  const { roles } = useTheme()
  return (
    <Box component="details" open={open} sx={{ borderTop: `1px solid ${roles.rule}`, pt: 0.75 }}>
      <Box
        component="summary"
        sx={{
          fontSize: 12,
          fontWeight: 500,
          color: roles.kelpText,
          cursor: 'pointer',
          '&:hover': { color: roles.ink },
        }}
      >
        {title}
      </Box>
      <Box sx={{ display: 'grid', gap: 1.25, pt: 1 }}>{children}</Box>
    </Box>
  )
}
