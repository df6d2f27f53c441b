// Reads a film as a stranger would, by mediabunny: how many pictures, how large, how long, how coded.
// Usage: node read-film.mjs FILE
import { readFile } from 'node:fs/promises'
import { ALL_FORMATS, BufferSource, EncodedPacketSink, Input } from 'mediabunny'

const input = new Input({ formats: ALL_FORMATS, source: new BufferSource((await readFile(process.argv[2])).buffer) })
const track = await input.getPrimaryVideoTrack()
const times = []
for await (const p of new EncodedPacketSink(track).packets()) times.push(p.timestamp)
times.sort((a, b) => a - b)
console.log(
  JSON.stringify({
    pictures: times.length,
    width: await track.getDisplayWidth(),
    height: await track.getDisplayHeight(),
    seconds: await input.computeDuration(),
    steps: [...new Set(times.slice(1).map((t, i) => Math.round((t - times[i]) * 1000)))],
  }),
)
