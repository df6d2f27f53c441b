import Autocomplete from '@mui/material/Autocomplete'
import Box from '@mui/material/Box'
import InputBase from '@mui/material/InputBase'
import Popover from '@mui/material/Popover'
import type { PopperProps } from '@mui/material/Popper'
import { useTheme } from '@mui/material/styles'
import { Picture } from '../../look/pictures'

/** Something that can be added to the scene. */
export interface Addable {
  group: string
  name: string
  picture: string
  /** Why it cannot be added now. */
  wants?: string
  add: () => void
}

/** What can be added, in groups with pictures; typing searches. */
export function AddMenu({
  anchor,
  items,
  onClose,
}: {
  anchor: HTMLElement | null
  items: Addable[]
  onClose: () => void
}) {
  const { roles } = useTheme()
  return (
    <Popover
      open={!!anchor}
      anchorEl={anchor}
      onClose={onClose}
      anchorOrigin={{ vertical: 'bottom', horizontal: 'left' }}
      slotProps={{ paper: { role: 'dialog', 'aria-label': 'Add to the scene', sx: { width: 'min(640px, 94vw)' } } }}
    >
      <Autocomplete<Addable, false, true>
        open
        autoHighlight
        disableClearable
        forcePopupIcon={false}
        options={items}
        groupBy={(i) => i.group}
        getOptionLabel={(i) => i.name}
        getOptionDisabled={(i) => !!i.wants}
        noOptionsText="Nothing of that name can be added."
        onChange={(_, i) => {
          onClose()
          i.add()
        }}
        onClose={(_, why) => why === 'escape' && onClose()}
        slots={{ popper: InPlace }}
        slotProps={{
          paper: { elevation: 0, sx: { background: 'none', m: 0 } },
          listbox: { sx: { maxHeight: 'min(560px, 70vh)', p: 0.5, columnCount: { xs: 1, sm: 3 }, columnGap: 0 } },
        }}
        renderInput={({ slotProps: { input, htmlInput } }) => (
          <InputBase
            {...input}
            autoFocus
            fullWidth
            placeholder="Type to search"
            inputProps={{ ...htmlInput, 'aria-label': 'Search what can be added' }}
            sx={{ px: 1.5, height: 34, fontSize: 12, borderBottom: `1px solid ${roles.rule}` }}
          />
        )}
        renderGroup={({ key, group, children }) => (
          <Box role="group" aria-label={group} key={key} sx={{ breakInside: 'avoid', pb: 0.75 }}>
            <Box aria-hidden sx={{ px: 1, fontSize: 11, lineHeight: '24px', color: roles.secondary }}>
              {group}
            </Box>
            <Box component="ul" role="none" sx={{ p: 0, m: 0, listStyle: 'none' }}>
              {children}
            </Box>
          </Box>
        )}
        renderOption={({ key, ...props }, i) => (
          <Box
            component="li"
            key={key}
            {...props}
            title={i.wants}
            sx={{
              '&&': { minHeight: 26, py: '2px', px: 1, gap: 1, fontSize: 12, lineHeight: '15px', borderRadius: '6px' },
            }}
          >
            <Box component="span" sx={{ display: 'flex', color: roles.kelp }}>
              <Picture of={i.picture} />
            </Box>
            {i.name}
          </Box>
        )}
      />
    </Popover>
  )
}

/** The list stands in the popover and not in one of its own. */
function InPlace({ children }: PopperProps) {
  return <div>{children as React.ReactNode}</div>
}
