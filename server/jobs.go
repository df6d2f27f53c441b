package server

import (
	"context"
	"errors"
	"fmt"
	"io"
	"log/slog"
	"os"
	"path/filepath"
	"runtime/debug"
	"slices"
	"sync"
	"time"

	"github.com/google/uuid"

	"bead/core/rig"
	"bead/core/scene"
	"bead/delivery"
	"bead/formats"
)

// BakeState is the progress of a bake.
type BakeState struct {
	ID     string  `json:"id"`
	Scene  string  `json:"scene,omitempty"` // its id, where it was baked by that
	Name   string  `json:"name"`            // of the scene
	Format string  `json:"format"`
	First  int     `json:"first"`
	Last   int     `json:"last"`
	Done   int     `json:"done"`  // frames
	Total  int     `json:"total"` // frames
	State  string  `json:"state" jsonschema:"enum=running,enum=finished,enum=failed"`
	Left   float64 `json:"left"` // seconds, estimated
	Bytes  int64   `json:"bytes"`
	Detail string  `json:"detail,omitempty"`
	// Notes are what was found out on the way, such as how near joints come.
	Notes []string `json:"notes,omitempty"`
}

// jobs runs bakes one at a time, each into a file of its own that is deleted
// when it has been kept for a while.
type jobs struct {
	mu   sync.Mutex
	dir  string // of the files; that of the system where empty
	all  map[string]*job
	slot chan struct{}
	ctx  context.Context
	stop context.CancelFunc
	wait sync.WaitGroup
	came int
}

// ask names a request, so that it may be sent again: the key that its client gave it and what it was;
// and whose it is.
type ask struct {
	person string
	key    string
	body   [32]byte
}

type job struct {
	state  BakeState
	cancel context.CancelFunc
	file   *os.File
	begun  time.Time
	order  int // in which it came
	asked  ask
	doc    *scene.Document
	wish   formats.Options
	note   *delivery.Note // as soon as somebody asked for it
	ended  time.Time
}

// keepFor is how long a finished bake waits to be fetched.
const keepFor = 15 * time.Minute

// Limits of bakes: bytes of one file and of all that are kept, and bakes that wait or run.
const (
	maxBakeBytes = 2 << 30
	maxKeptBytes = 6 << 30
	maxBakes     = 8
	maxOwnBakes  = maxBakes / 2 // of one person
)

var (
	errManyBakes    = fmt.Errorf("%d bakes wait or run already: wait for one or cancel it", maxBakes)
	errOwnBakes     = fmt.Errorf("%d bakes of yours wait or run already: wait for one or cancel it", maxOwnBakes)
	errOtherRequest = errors.New("this Idempotency-Key was given to another request: a new one is accepted")

	errLargeBake = fmt.Errorf("the file grows beyond %d GB: bake fewer frames at a time, leave rigs out, or choose another format", maxBakeBytes>>30)
)

// newJobs keeps files in dir and deletes what an earlier run has left there; an empty dir is that
// of the system, where nothing is deleted.
func newJobs(dir string) *jobs {
	j := &jobs{dir: dir, all: map[string]*job{}, slot: make(chan struct{}, 1)}
	j.ctx, j.stop = context.WithCancel(context.Background())
	if dir == "" {
		return j
	}
	left, _ := filepath.Glob(filepath.Join(dir, bakePrefix+"*"))
	for _, f := range left {
		os.Remove(f)
	}
	return j
}

const bakePrefix = "bead-bake-"

// close cancels running bakes and deletes files.
func (j *jobs) close() {
	j.stop()
	j.wait.Wait()
	j.mu.Lock()
	defer j.mu.Unlock()
	for id := range j.all {
		j.drop(id)
	}
}

// drop forgets a job and deletes its file. The caller holds mu.
func (j *jobs) drop(id string) {
	if x := j.all[id]; x != nil {
		x.file.Close()
		os.Remove(x.file.Name())
		delete(j.all, id)
	}
}

// room makes sure that one more bake of a person may begin: the oldest finished ones give way to it.
func (j *jobs) room(person string) error {
	j.mu.Lock()
	defer j.mu.Unlock()
	busy, own, kept := 0, 0, int64(0)
	var done []*job
	for _, x := range j.all {
		if x.state.State == "running" {
			if busy++; x.asked.person == person {
				own++
			}
			continue
		}
		kept += x.state.Bytes
		done = append(done, x)
	}
	if busy >= maxBakes {
		return errManyBakes
	}
	if own >= maxOwnBakes {
		return errOwnBakes
	}
	slices.SortFunc(done, func(a, b *job) int { return a.ended.Compare(b.ended) })
	for _, x := range done {
		if kept <= maxKeptBytes-maxBakeBytes {
			break
		}
		kept -= x.state.Bytes
		j.drop(x.state.ID)
	}
	return nil
}

func (j *jobs) start(s *rig.Scene, o formats.Options, a ask) (BakeState, error) {
	if err := j.room(a.person); err != nil {
		return BakeState{}, err
	}
	kind, frames := o.Format, o.Frames
	_, simulated := s.SimulatedTo(frames.Last) // comes before, and is a part of the work
	file, err := os.CreateTemp(j.dir, bakePrefix+"*."+kind)
	if err != nil {
		return BakeState{}, err
	}
	ctx, cancel := context.WithCancel(j.ctx)
	x := &job{state: BakeState{ID: uuid.NewString(), Scene: o.Scene, Name: s.Doc.Name, Format: kind, First: frames.First, Last: frames.Last, Total: frames.Count() + simulated, State: "running"},
		cancel: cancel, file: file, begun: time.Now(), asked: a, doc: s.Doc, wish: o}
	begun := x.state
	j.mu.Lock()
	if other := j.of(a); other != nil { // the same request came twice at once
		defer j.mu.Unlock()
		cancel()
		file.Close()
		os.Remove(file.Name())
		return other.answer(a)
	}
	j.came++
	x.order = j.came
	j.all[begun.ID] = x
	j.mu.Unlock()
	j.wait.Go(func() {
		defer cancel()
		select {
		case j.slot <- struct{}{}:
			defer func() { <-j.slot }()
		case <-ctx.Done():
		}
		err := ctx.Err()
		if err == nil {
			o.Say = func(text string) { j.say(x, text) }
			o.Simulated = func(n, _ int) { j.progress(x, n) }
			err = bake(ctx, file, s, o, func(n int) { j.progress(x, simulated+n) })
		}
		j.finish(x, err)
	})
	return begun, nil
}

// bake writes a file of up to maxBakeBytes. A mistake in it ends the bake and not the server.
func bake(ctx context.Context, file *os.File, s *rig.Scene, o formats.Options, done func(int)) (err error) {
	defer func() {
		if r := recover(); r != nil {
			slog.Error("panic in a bake", "value", r, "stack", string(debug.Stack()))
			err = errors.New("a mistake of Bead itself, which the log names")
		}
	}()
	return formats.Bake(ctx, &limited{w: file, left: maxBakeBytes}, s, o, done)
}

// limited ends writing with errLargeBake.
type limited struct {
	w    io.Writer
	left int64
}

func (l *limited) Write(p []byte) (int, error) {
	if l.left -= int64(len(p)); l.left < 0 {
		return 0, errLargeBake
	}
	return l.w.Write(p)
}

func (j *jobs) progress(x *job, done int) {
	j.mu.Lock()
	defer j.mu.Unlock()
	x.state.Done = done
	x.state.Left = time.Since(x.begun).Seconds() / float64(done) * float64(x.state.Total-done)
}

func (j *jobs) say(x *job, text string) {
	j.mu.Lock()
	defer j.mu.Unlock()
	x.state.Notes = append(x.state.Notes, text)
}

func (j *jobs) finish(x *job, err error) {
	j.mu.Lock()
	defer j.mu.Unlock()
	x.state.State, x.state.Left, x.ended = "finished", 0, time.Now()
	if info, e := x.file.Stat(); err == nil && e == nil {
		x.state.Bytes = info.Size()
	} else if err != nil {
		x.state.State, x.state.Detail = "failed", sentence(err)
		_ = x.file.Truncate(0) // half a file is no use to anybody and takes room
	}
	id := x.state.ID
	time.AfterFunc(keepFor, func() {
		j.mu.Lock()
		defer j.mu.Unlock()
		j.drop(id)
	})
}

// list is the state of all bakes, the newest first.
func (j *jobs) list() []BakeState {
	j.mu.Lock()
	defer j.mu.Unlock()
	var all []*job
	for _, x := range j.all {
		all = append(all, x)
	}
	slices.SortFunc(all, func(a, b *job) int { return b.order - a.order })
	out := []BakeState{}
	for _, x := range all {
		out = append(out, x.state)
	}
	return out
}

// asked finds the bake that a request has begun before.
func (j *jobs) asked(a ask) (state BakeState, known bool, err error) {
	j.mu.Lock()
	defer j.mu.Unlock()
	x := j.of(a)
	if x == nil {
		return BakeState{}, false, nil
	}
	state, err = x.answer(a)
	return state, true, err
}

// answer is the state of a job for a request with its key. The caller holds mu.
func (x *job) answer(a ask) (BakeState, error) {
	if x.asked.body != a.body {
		return BakeState{}, errOtherRequest
	}
	return x.state, nil
}

// of is the job of a request with a key; nil of none. The caller holds mu.
func (j *jobs) of(a ask) *job {
	for _, x := range j.all {
		if a.key != "" && x.asked.key == a.key {
			return x
		}
	}
	return nil
}

func (j *jobs) get(id string) (BakeState, *job) {
	j.mu.Lock()
	defer j.mu.Unlock()
	if x := j.all[id]; x != nil {
		return x.state, x
	}
	return BakeState{}, nil
}
