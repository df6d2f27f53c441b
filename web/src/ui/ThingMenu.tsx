import Box from '@mui/material/Box'
import Divider from '@mui/material/Divider'
import Menu from '@mui/material/Menu'
import MenuItem from '@mui/material/MenuItem'
import { useTheme } from '@mui/material/styles'
import { useBench } from '../stores/bench'
import { useView } from '../stores/prefs'
import { company, copyThing, duplicateThing, makeOtherSide, pasteThing, removeThing, renameThing } from './things'

/** The menu of a thing: by right-click wherever it shows, and behind the three dots. */
export function ThingMenu() {
  const { roles } = useTheme()
  const menu = useView((v) => v.menu)
  const close = () => useView.setState({ menu: null })
  if (!menu) return null
  const { thing, x, y } = menu
  const { doc } = useBench.getState()
  const path = thing.kind === 'path' ? thing.id : doc?.rigs.find((r) => thing.kind === 'rig' && r.id === thing.id)?.path
  const items: [string, string, () => void][] = [
    ['Rename', 'F2', () => renameThing(thing)],
    ['Duplicate', 'Ctrl D', () => duplicateThing(thing)],
    ['Copy', 'Ctrl C', () => copyThing(thing)],
    ['Paste', 'Ctrl V', pasteThing],
    ['Look at it', 'N', () => useView.getState().lookNear()],
    ...(path ? [['Make the other side', '', () => void makeOtherSide(path, 0)] as [string, string, () => void]] : []),
  ]
  const row = ([name, key, run]: (typeof items)[number], also = '') => (
    <MenuItem
      key={name}
      onClick={() => {
        close()
        run()
      }}
    >
      <Box component="span" sx={{ flex: 1, pr: 3 }}>
        {name}
        {also}
      </Box>
      <Box component="span" sx={{ color: roles.secondary, fontSize: 11 }}>
        {key}
      </Box>
    </MenuItem>
  )
  return (
    <Menu open onClose={close} anchorReference="anchorPosition" anchorPosition={{ left: x, top: y }}>
      {items.map((i) => row(i))}
      <Divider />
      {row(['Delete', 'Del', () => removeThing(thing)], company(thing))}
    </Menu>
  )
}
