import ArrowBack from '@mui/icons-material/ArrowBack'
import Box from '@mui/material/Box'
import IconButton from '@mui/material/IconButton'
import { useTheme } from '@mui/material/styles'
import { useBench } from '../../stores/bench'

/** The head of a panel that stands in the recipe's place. */
export function PanelHead({ title, note }: { title: string; note?: string }) {
  const { roles } = useTheme()
  return (
    <Box
      sx={{
        // The way back stays in sight.
        position: 'sticky',
        top: 0,
        zIndex: 2,
        background: roles.paper,
        display: 'flex',
        alignItems: 'center',
        gap: 1,
        p: 1,
      }}
    >
      <IconButton
        aria-label="Back to the recipe"
        title="Back to the recipe (Esc)"
        onClick={() => useBench.setState({ panel: 'recipe', shownCheck: null })}
        sx={{ width: 28, height: 28 }}
      >
        <ArrowBack sx={{ fontSize: 16 }} />
      </IconButton>
      <Box component="h2" sx={{ typography: 'h2', m: 0 }}>
        {title}
      </Box>
      <Box sx={{ color: roles.secondary }}>{note}</Box>
    </Box>
  )
}
