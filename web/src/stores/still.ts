import { useBench } from './bench'
import { useView } from './prefs'

/** Saves a picture of the view as it is, by the film panel. */
export function takeStill() {
  useView.setState({ wantsStill: true })
  useBench.setState({ panel: 'film' })
}
