package server

import (
	"bytes"
	"cmp"
	"context"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"runtime/debug"
	"sync"
	"time"

	"github.com/coder/websocket"
	"github.com/gin-gonic/gin"

	"bead/core/geom"
	"bead/core/report"
	"bead/core/rig"
	"bead/core/scene"
)

// LiveRequest is what the page sends on the live channel: an edit with its
// document, or, without one, a frame to look at.
type LiveRequest struct {
	Seq   uint32 `json:"seq"`
	Frame int    `json:"frame"`
	// Frames are more that are looked at, in the order in which they are wanted.
	Frames []int `json:"frames,omitempty"`
	// Doc is the document, or Patch its changes since the edit before (RFC 6902).
	Doc   json.RawMessage `json:"doc,omitempty"`
	Patch json.RawMessage `json:"patch,omitempty"`
	// Fill asks for checks and all frames of the range after the answer; without it
	// only the frame comes, as while something is being dragged.
	Fill bool `json:"fill"`
	// Stop gives up the simulation that frames wait for; the next edit goes on with it.
	Stop bool `json:"stop,omitempty"`
}

// fillBytes is the bytes of frames sent ahead where the configuration gives none.
const fillBytes = 96 << 20

func (s *Server) live(c *gin.Context) {
	// Joined before it is read, so that no change falls between the two.
	revisions, leave := s.hub.join(c.Param("id"))
	defer leave()
	now, err := s.cfg.Store.Get(c.Request.Context(), c.Param("id"))
	if err != nil {
		s.failWith(c, err)
		return
	}
	conn, err := websocket.Accept(c.Writer, c.Request, nil) // checks the origin once more
	if err != nil {
		return // Accept has answered
	}
	conn.SetReadLimit(maxBody)
	ctx, cancel := context.WithCancel(c.Request.Context())
	defer cancel()
	defer context.AfterFunc(s.ctx, cancel)()
	ch := &liveChannel{server: s, stopChecks: func() {}, simulation: newSimulation(), conn: conn, mail: newMailbox(), sent: map[string]bool{}, budget: cmp.Or(s.cfg.FillBytes, fillBytes),
		compiler: rig.Compiler{Meshes: s.library.Mesh, Figures: s.library.Figure, Kept: s.kept(), Memo: new(rig.Memo)}}
	go func() {
		defer cancel()
		ch.read(ctx)
	}()
	go ch.tell(ctx, now.Revision, revisions)
	if err := s.serveLive(ctx, ch); err != nil && ctx.Err() == nil {
		s.cfg.Log.Warn("live channel", "err", err)
		if errors.Is(err, errMistake) {
			conn.Close(websocket.StatusInternalError, err.Error())
			return
		}
	}
	if s.ctx.Err() != nil {
		conn.Close(websocket.StatusGoingAway, "the server is stopping")
		return
	}
	conn.Close(websocket.StatusNormalClosure, "")
}

var errMistake = errors.New("a mistake of Bead itself; nothing that was saved is lost")

// serveLive serves a channel; a mistake in one ends it and not the server.
func (s *Server) serveLive(ctx context.Context, ch *liveChannel) (err error) {
	defer func() {
		if r := recover(); r != nil {
			s.cfg.Log.Error("panic in a live channel", "value", r, "stack", string(debug.Stack()))
			err = errMistake
		}
	}()
	return ch.serve(ctx)
}

// liveChannel is one connection. Its reader fills the mailbox, its server
// answers from it, so that a newer edit overtakes the filling of an older one.
type liveChannel struct {
	server *Server
	conn   *websocket.Conn
	mail   *mailbox
	sent   map[string]bool // meshes that the page has
	// compiler remembers the measures of the last edit's spans.
	compiler rig.Compiler
	msg      message
	pic      rig.Picture
	scene    *rig.Scene
	seq      uint32
	wanted   []int // frames that were asked for, the next one first
	fill     []int // frames still to send ahead, nearest last
	has      map[int]bool
	told     bool // that what is left to send ahead waits for its simulation
	bytes    int
	budget   int // bytes of frames that are sent ahead
	// stopChecks ends the look at every frame of the last edit.
	stopChecks context.CancelFunc
	simulation *simulation
}

// maxWanted is the most frames that one look may ask for.
const maxWanted = 256

// tell says at what revision the scene is: at once, for a window that was away may have missed
// some, and whenever it has moved on.
func (l *liveChannel) tell(ctx context.Context, revision int64, later <-chan int64) {
	var msg message
	for {
		msg.start(kindMoved, 0, 0)
		if msg.json(tagJSON, Moved{revision}) != nil || l.conn.Write(ctx, websocket.MessageBinary, msg.b) != nil {
			return
		}
		select {
		case <-ctx.Done():
			return
		case revision = <-later:
		}
	}
}

// read takes in what the page sends. text is the document as the page knows it: every change
// counts from the one before, whether that is answered or overtaken.
func (l *liveChannel) read(ctx context.Context) {
	var text []byte
	for {
		kind, data, err := l.conn.Read(ctx)
		if err != nil {
			return
		}
		var r LiveRequest
		if kind != websocket.MessageText {
			l.conn.Close(websocket.StatusUnsupportedData, "JSON text is accepted")
			return
		}
		if err := json.Unmarshal(data, &r); err != nil {
			text = nil // a patch that comes next counts from what was not read
			l.refuse(ctx, data, err)
			continue
		}
		if r.Patch != nil {
			if r.Doc, err = patched(text, r.Patch); err != nil {
				l.conn.Close(websocket.StatusPolicyViolation, "the whole document is accepted")
				return
			}
		}
		if r.Doc != nil {
			text = r.Doc
		}
		if r.Stop {
			l.simulation.end()
			continue
		}
		l.mail.put(&r)
	}
}

// refuse answers a message that cannot be read, under its seq where that stands before what is wrong.
func (l *liveChannel) refuse(ctx context.Context, data []byte, why error) {
	var msg message
	msg.start(kindFault, seqOf(data), 0)
	if msg.json(tagJSON, Refusal{"The message cannot be read: " + why.Error() + ". JSON text as docs/protocol.md describes it is accepted.", []scene.Fault{}}) == nil {
		_ = l.conn.Write(ctx, websocket.MessageBinary, msg.b) // a broken channel is seen by its reader
	}
}

// seqOf reads the seq of a message as far as that is JSON; 0 where it is not found.
func seqOf(data []byte) (seq uint32) {
	d := json.NewDecoder(bytes.NewReader(data))
	if _, err := d.Token(); err != nil {
		return 0
	}
	for d.More() {
		key, err := d.Token()
		if err != nil {
			return 0
		}
		if key == "seq" {
			_ = d.Decode(&seq)
			return seq
		}
		if err := d.Decode(new(json.RawMessage)); err != nil {
			return 0
		}
	}
	return 0
}

func (l *liveChannel) serve(ctx context.Context) error {
	for {
		edit, look := l.mail.take()
		if err := l.answer(ctx, edit, look); err != nil {
			return err
		}
		if edit != nil || look != nil {
			continue
		}
		if len(l.wanted) > 0 {
			n := l.wanted[0]
			if l.wanted = l.wanted[1:]; near(n) {
				if err := l.frame(ctx, n); err != nil {
					return err
				}
			}
			continue
		}
		if n := len(l.fill); n > 0 && l.bytes < l.budget && l.scene.Ready(l.fill[n-1]) {
			if err := l.fillNext(ctx); err != nil {
				return err
			}
			continue
		}
		if n := len(l.fill); n > 0 && !l.told && !l.scene.Ready(l.fill[n-1]) {
			l.told = true
			l.msg.start(kindFilled, l.seq, l.fill[n-1])
			if err := l.send(ctx); err != nil {
				return err
			}
			continue
		}
		select {
		case <-ctx.Done():
			return nil
		case <-l.mail.signal:
		case <-l.simulation.came:
		}
	}
}

func (l *liveChannel) answer(ctx context.Context, edit, look *LiveRequest) error {
	if edit != nil {
		if err := l.edit(ctx, edit); err != nil {
			return err
		}
	}
	if look != nil && l.scene != nil && look.Seq == l.seq {
		// What is asked for is sent, sent before or not: the page may have let it go.
		l.wanted = append([]int{look.Frame}, look.Frames[:min(len(look.Frames), maxWanted)]...)
	}
	return nil
}

// near reports whether a frame is one that is made.
func near(frame int) bool { return frame >= -scene.FarthestFrame && frame <= scene.FarthestFrame }

// overtakenAfter is how long an answer may run before a newer edit cancels it.
const overtakenAfter = 150 * time.Millisecond

// edit compiles the document and answers with the frame looked at, then checks. A newer edit that
// is kept ends it on the way.
func (l *liveChannel) edit(ctx context.Context, r *LiveRequest) error {
	l.fill, l.wanted, l.told = l.fill[:0], nil, false
	l.stopChecks()
	work, end := l.overtaken(ctx)
	compiled, read, err := l.compile(work, r)
	overtaken := work.Err() != nil
	end()
	if overtaken {
		return ctx.Err() // what has overtaken it is answered next
	}
	if err != nil {
		var faults scene.Faults
		errors.As(err, &faults)
		l.msg.start(kindFault, r.Seq, r.Frame)
		if err := l.msg.json(tagJSON, Refusal{err.Error(), append([]scene.Fault{}, faults...)}); err != nil {
			return err
		}
		return l.send(ctx)
	}
	l.scene, l.seq, l.bytes = compiled, r.Seq, 0
	l.has = map[int]bool{r.Frame: compiled.Ready(r.Frame)}
	if err := l.tellScene(r, read); err != nil {
		return err
	}
	l.msg.picture(compiled, &l.pic)
	if err := l.send(ctx); err != nil || !r.Fill || l.mail.editWaits() {
		return err
	}
	l.fill = outward(l.fill, r.Frame, compiled.Doc.Range)
	waits := !allReady(compiled)
	if waits { // they come from the first on
		l.fill = l.fill[:0]
		for n := compiled.Doc.Range.Last; n >= compiled.Doc.Range.First; n-- {
			l.fill = append(l.fill, n)
		}
	}
	if len(l.fill) == 0 {
		l.msg.start(kindFilled, r.Seq, r.Frame)
		if err := l.send(ctx); err != nil {
			return err
		}
	}
	var checking context.Context
	checking, l.stopChecks = context.WithCancel(ctx)
	working := l.simulation.begin(checking)
	checks := measuring{ctx, checking, compiled, r.Seq, r.Frame}
	if !waits {
		go l.check(checks, false, true)
		return nil
	}
	// What waits for no simulation is checked beside it.
	var early sync.WaitGroup
	var measured bool
	early.Go(func() { measured = l.check(checks, true, true) })
	go func() {
		if l.simulate(ctx, working, compiled, r.Seq) {
			early.Wait()
			l.check(checks, false, !measured)
		}
	}()
	return nil
}

// tellScene begins the answer to an edit: the readout, the meshes that the page has not, and the paths that
// stay as they are.
func (l *liveChannel) tellScene(r *LiveRequest, read report.Readout) error {
	compiled := l.scene
	l.msg.start(kindScene, r.Seq, r.Frame)
	doc, out := compiled.Doc, Readout{Readout: read, Meshes: []string{}, WheelMeshes: [][]string{}, Moulds: [][]string{}} // lists, not null
	told := func(hash [32]byte, mesh func() *geom.Mesh) string {
		name := hex.EncodeToString(hash[:8])
		if !l.sent[name] {
			l.sent[name] = true
			l.msg.mesh(name, mesh())
		}
		return name
	}
	for i := range compiled.Parts {
		p := &compiled.Parts[i]
		out.Meshes = append(out.Meshes, told(p.Hash, func() *geom.Mesh { return p.Mesh }))
	}
	for i := range compiled.Paths {
		names := []string{}
		for k := range compiled.WheelCount(i) {
			names = append(names, told(compiled.WheelMesh(i, k)))
		}
		out.WheelMeshes = append(out.WheelMeshes, names)
	}
	for i := range compiled.Rigs {
		names := []string{}
		for _, x := range compiled.Rigs[i].Moulds() {
			names = append(names, told(x.Hash, func() *geom.Mesh { return x.Mesh }))
		}
		out.Moulds = append(out.Moulds, names)
	}
	if err := l.msg.json(tagReadout, out); err != nil {
		return err
	}
	for i, c := range compiled.Paths {
		if compiled.Deforms(i) {
			continue // comes with the frame
		}
		points, distances := c.Polyline(doc.Paths[i].Chord(c.Length()))
		l.msg.path(i, points, distances)
	}
	return nil
}

// compile reads an edit's document, measures it, and makes the frame that is looked at.
func (l *liveChannel) compile(ctx context.Context, r *LiveRequest) (*rig.Scene, report.Readout, error) {
	if !near(r.Frame) {
		return nil, report.Readout{}, fmt.Errorf("frame %d is not accepted: frames within ±%d are", r.Frame, scene.FarthestFrame)
	}
	done, err := l.server.answers.take(ctx)
	if err != nil {
		return nil, report.Readout{}, err
	}
	defer done()
	doc, err := scene.DecodeContext(ctx, r.Doc)
	if err != nil {
		return nil, report.Readout{}, err
	}
	well := false
	if r.Fill { // it is to be kept, too
		proved := l.server.proven.begin(doc)
		defer func() { proved(well) }()
	}
	compiled, err := l.compiler.CompileContext(ctx, doc)
	if well = err == nil; !well {
		return nil, report.Readout{}, err
	}
	out, err := report.OfContext(ctx, compiled)
	if err == nil {
		err = compiled.Settle(ctx, r.Frame)
	}
	if err == nil {
		err = compiled.FrameContext(ctx, &l.pic, r.Frame)
	}
	return compiled, out, err
}

func (l *liveChannel) fillNext(ctx context.Context) error {
	n := l.fill[len(l.fill)-1]
	l.fill = l.fill[:len(l.fill)-1]
	if !l.has[n] {
		done, err := l.server.ahead.take(ctx)
		if err != nil {
			return err
		}
		made := l.make(ctx, n)
		done() // a page that takes its time must not hold up others
		if made {
			err = l.sendFrame(ctx, n)
		}
		if err != nil || !made {
			return err
		}
	}
	if len(l.fill) == 0 || l.bytes >= l.budget {
		l.msg.start(kindFilled, l.seq, n)
		return l.send(ctx)
	}
	return nil
}

// overtaken returns a context that ends when a newer edit that is kept has waited for a moment,
// and what gives that up.
func (l *liveChannel) overtaken(ctx context.Context) (work context.Context, end func()) {
	work, cancel := context.WithCancel(ctx)
	begun := time.Now()
	l.mail.answering(func() { time.AfterFunc(overtakenAfter-time.Since(begun), cancel) })
	return work, func() {
		l.mail.answering(nil)
		cancel()
	}
}

// make makes frame n; false where a newer edit has ended that.
func (l *liveChannel) make(ctx context.Context, n int) bool {
	work, end := l.overtaken(ctx)
	defer end()
	if l.scene.Settle(work, n) != nil {
		return false
	}
	return l.scene.FrameContext(work, &l.pic, n) == nil
}

func (l *liveChannel) frame(ctx context.Context, n int) error {
	if !l.make(ctx, n) {
		return ctx.Err()
	}
	return l.sendFrame(ctx, n)
}

func (l *liveChannel) sendFrame(ctx context.Context, n int) error {
	l.msg.start(kindFrame, l.seq, n)
	l.msg.picture(l.scene, &l.pic)
	l.bytes += len(l.msg.b)
	if l.bytes < l.budget && l.scene.Ready(n) {
		l.has[n] = true
	}
	return l.send(ctx)
}

// sendWithin is how long the page may take to receive a message.
const sendWithin = time.Minute

func (l *liveChannel) send(ctx context.Context) error {
	ctx, cancel := context.WithTimeout(ctx, sendWithin)
	defer cancel()
	return l.conn.Write(ctx, websocket.MessageBinary, l.msg.b)
}
