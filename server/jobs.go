package server

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"log/slog"
	"net/http"
	"os"
	"path/filepath"
	"runtime/debug"
	"slices"
	"sync"
	"time"

	"github.com/gin-gonic/gin"
	"github.com/google/uuid"

	"bead/core/rig"
	"bead/core/scene"
	"bead/formats"
)

// BakeState is how far a bake has come.
type BakeState struct {
	ID     string  `json:"id"`
	Done   int     `json:"done"`  // frames
	Total  int     `json:"total"` // frames
	State  string  `json:"state"` // running, finished, failed
	Left   float64 `json:"left"`  // seconds, estimated
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
}

type job struct {
	state  BakeState
	cancel context.CancelFunc
	file   *os.File
	kind   string
	name   string
	begun  time.Time
	ended  time.Time
}

// keepFor is how long a finished bake waits to be fetched.
const keepFor = 15 * time.Minute

// Limits of bakes: bytes of one file and of all that are kept, and bakes that wait or run.
const (
	maxBakeBytes = 2 << 30
	maxKeptBytes = 6 << 30
	maxBakes     = 8
)

var (
	errManyBakes = fmt.Errorf("%d bakes wait or run already: wait for one or cancel it", maxBakes)
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

// close cancels what runs and deletes what is kept.
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

// room makes sure that one more bake may begin: the oldest finished ones give way to it.
func (j *jobs) room() error {
	j.mu.Lock()
	defer j.mu.Unlock()
	busy, kept := 0, int64(0)
	var done []*job
	for _, x := range j.all {
		if x.state.State == "running" {
			busy++
			continue
		}
		kept += x.state.Bytes
		done = append(done, x)
	}
	if busy >= maxBakes {
		return errManyBakes
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

func (j *jobs) start(s *rig.Scene, o formats.Options) (BakeState, error) {
	if err := j.room(); err != nil {
		return BakeState{}, err
	}
	kind, frames := o.Format, o.Frames
	_, simulated := s.Simulated() // comes before, and is a part of the work
	file, err := os.CreateTemp(j.dir, bakePrefix+"*."+kind)
	if err != nil {
		return BakeState{}, err
	}
	ctx, cancel := context.WithCancel(j.ctx)
	x := &job{state: BakeState{ID: uuid.NewString(), Total: frames.Count() + simulated, State: "running"},
		cancel: cancel, file: file, kind: kind, name: s.Doc.Name, begun: time.Now()}
	begun := x.state
	j.mu.Lock()
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

func (j *jobs) get(id string) (BakeState, *job) {
	j.mu.Lock()
	defer j.mu.Unlock()
	if x := j.all[id]; x != nil {
		return x.state, x
	}
	return BakeState{}, nil
}

func (s *Server) startBake(c *gin.Context) {
	var req struct {
		Doc     json.RawMessage `json:"doc"`
		Format  string          `json:"format"`
		First   int             `json:"first"`
		Last    int             `json:"last"`
		Rigs    []string        `json:"rigs"`    // ids; empty for all
		Paths   bool            `json:"paths"`   // along as lines
		Single  bool            `json:"single"`  // every piece an object of its own
		Centred bool            `json:"centred"` // about its centre instead of its pivot
		Exact   bool            `json:"exact"`   // bodies that bend as they are in every frame
		Density float64         `json:"density"` // above 0: pieces are rigid bodies for a solver, kg/m^3
		InPlace bool            `json:"inPlace"` // roots of figures stay
		OwnKeys bool            `json:"ownKeys"` // figures have keys where their cycle has them
		// Tolerance is how far a joint may be off between those, metres.
		Tolerance float64 `json:"tolerance"`
	}
	if !body(c, &req) {
		return
	}
	compiled, err := s.read(c.Request.Context(), req.Doc)
	if err != nil {
		s.failWith(c, err)
		return
	}
	if _, known := formats.Of(req.Format); !known {
		fail(c, http.StatusBadRequest, "format", fmt.Sprintf("%q is no format to bake to: %v are.", req.Format, formats.Endings()), nil)
		return
	}
	frames := scene.Range{First: req.First, Last: req.Last}
	if err := formats.CheckFrames(frames); err != nil {
		fail(c, http.StatusBadRequest, "range", "This cannot be baked: "+err.Error()+".", nil)
		return
	}
	if err := formats.CheckDensity(req.Format, req.Density); err != nil {
		fail(c, http.StatusBadRequest, "density", "This cannot be baked: "+err.Error()+".", nil)
		return
	}
	if !(req.Tolerance >= 0 && req.Tolerance <= 1000) {
		fail(c, http.StatusBadRequest, "tolerance", fmt.Sprintf("A tolerance of %g m is not accepted: from 0 to 1000 m is.", req.Tolerance), nil)
		return
	}
	if err := c.Request.Context().Err(); err != nil {
		s.failWith(c, err)
		return
	}
	o := formats.Options{Format: req.Format, Frames: frames, Paths: req.Paths, Rigs: req.Rigs, Single: req.Single, Centred: req.Centred, Exact: req.Exact, Density: req.Density,
		InPlace: req.InPlace, OwnKeys: req.OwnKeys, Tolerance: req.Tolerance, Library: s.library}
	if err := o.CheckRigs(compiled); err != nil {
		fail(c, http.StatusBadRequest, "rigs", "This cannot be baked: "+err.Error()+".", nil)
		return
	}
	state, err := s.jobs.start(compiled, o)
	if err != nil {
		s.failWith(c, err)
		return
	}
	c.JSON(http.StatusAccepted, state)
}

func (s *Server) job(c *gin.Context) (BakeState, *job) {
	state, x := s.jobs.get(c.Param("job"))
	if x == nil {
		fail(c, http.StatusNotFound, "bake", "This bake is gone. Bake again.", nil)
	}
	return state, x
}

func (s *Server) bakeState(c *gin.Context) {
	if state, x := s.job(c); x != nil {
		c.JSON(http.StatusOK, state)
	}
}

func (s *Server) cancelBake(c *gin.Context) {
	if _, x := s.job(c); x != nil {
		x.cancel()
		c.Status(http.StatusNoContent)
	}
}

func (s *Server) bakeFile(c *gin.Context) {
	state, x := s.job(c)
	if x == nil {
		return
	}
	if state.State != "finished" {
		fail(c, http.StatusConflict, "bake", "This bake is not finished.", nil)
		return
	}
	c.Header("Content-Disposition", attachment(x.name, x.kind))
	if f, known := formats.Of(x.kind); known {
		c.Header("Content-Type", f.Media)
	}
	http.ServeFile(c.Writer, c.Request, x.file.Name())
}
