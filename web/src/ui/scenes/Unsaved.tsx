import { Alert, Box } from '@mui/material'
import { useQuery } from '@tanstack/react-query'
import { Link } from 'react-router'
import { resumeUnsaved } from '../../stores/queues'

/** Says which edits this browser still keeps. It lies at the bottom, over the page: what comes and goes above
 * moves what somebody is about to press. */
export function Unsaved() {
  const unsaved = useQuery({ queryKey: ['unsaved'], queryFn: resumeUnsaved, refetchInterval: 3000 })
  if (!unsaved.data?.length) return null
  return (
    <Box sx={{ height: 64 }}>
      <Alert
        severity="warning"
        elevation={6}
        sx={{ position: 'fixed', zIndex: 1, bottom: 16, left: 24, right: 24, maxWidth: 1072, mx: 'auto' }}
        data-testid="unsaved"
      >
        Not saved yet, kept in this browser:{' '}
        {unsaved.data.map((u, i) => (
          <span key={u.key}>
            {i > 0 && ', '}
            <Link to={`/scenes/${u.id}`} style={{ color: 'inherit' }}>
              {u.name}
            </Link>{' '}
            ({u.edits.length === 1 ? '1 edit' : `${u.edits.length} edits`})
          </span>
        ))}
      </Alert>
    </Box>
  )
}
