package server

import (
	"context"
	"runtime/debug"
	"sync"
	"time"

	"github.com/coder/websocket"

	"bead/core/check"
	"bead/core/rig"
)

// measuring is what checks are of: a scene that answers an edit, and the frame that is shown. Messages are sent
// as long as the channel lives, so that one is never cut off in the middle; the next edit ends checking.
type measuring struct {
	ctx, checking context.Context
	scene         *rig.Scene
	seq           uint32
	frame         int
}

// firstLook is the number of frames in the first answer of the checks; progressEvery the time between two
// messages of progress.
const firstLook, progressEvery = 9, 250 * time.Millisecond

// check looks at all frames, beside the edits, and first, where few is true, at some of them for a first
// answer. early leaves out what waits for a simulation. It reports whether there was something to measure.
func (l *liveChannel) check(x measuring, early, few bool) (measured bool) {
	var msg message
	var mu sync.Mutex
	say := func(r check.Report, looked int) {
		mu.Lock()
		defer mu.Unlock()
		if x.checking.Err() != nil {
			return
		}
		msg.start(kindChecks, x.seq, x.frame)
		c := Checks{append([]check.Result{}, r.Results...), r.Seen, r.Of, looked, append([]string{}, r.Waiting...)} // lists, not null
		if msg.json(tagJSON, c) == nil {
			_ = l.conn.Write(x.ctx, websocket.MessageBinary, msg.b) // a broken channel is seen by its reader
		}
	}
	// A mistake in a check ends the checks and not the server.
	defer func() {
		if r := recover(); r != nil {
			l.server.cfg.Log.Error("panic in the checks", "value", r, "stack", string(debug.Stack()))
		}
	}()
	turn := func(do func()) {
		if done, err := l.server.checks.take(x.checking); err == nil {
			defer done()
			do()
		}
	}
	if few {
		some := check.First(x.scene.Doc.Range, firstLook)
		report, err := check.Run(x.checking, x.scene, check.Look{Frames: some, Workers: 1, Turn: turn, Early: early})
		if err != nil {
			return false
		}
		if len(report.Results) == 0 || report.Seen == report.Of {
			say(report, 0)
			return len(report.Results) > 0
		}
		say(report, 1)
	}
	of, told := x.scene.Doc.Range.Count(), time.Now()
	report, err := check.Run(x.checking, x.scene, check.Look{Workers: 1, Turn: turn, Early: early, Progress: func(done int) {
		if time.Since(told) > progressEvery && done < of {
			told = time.Now()
			say(check.Report{Of: of}, done)
		}
	}})
	if err == nil {
		say(report, 0)
	}
	return len(report.Results) > 0
}
