package server

import (
	"io"
	"net/http"
	"time"

	"github.com/gin-gonic/gin"
)

// readAll reads a request's body up to a limit.
func readAll(c *gin.Context, limit int64) ([]byte, error) {
	defer patient(c, limit)()
	return c.GetRawData()
}

// idle is how long a request's body may come no further.
var idle = 20 * time.Second // a test waits less

// patient bounds the body of a request: in size, and in how long it may come no further. What it
// returns ends that when the body has been read.
func patient(c *gin.Context, limit int64) (end func()) {
	rc := http.NewResponseController(c.Writer)
	c.Request.Body = http.MaxBytesReader(c.Writer, &moving{c.Request.Body, rc}, limit)
	return func() { _ = rc.SetReadDeadline(time.Time{}) } // some writers know no deadlines
}

// moving is a body that has to go on coming.
type moving struct {
	io.ReadCloser
	rc *http.ResponseController
}

func (m *moving) Read(p []byte) (int, error) {
	_ = m.rc.SetReadDeadline(time.Now().Add(idle))
	return m.ReadCloser.Read(p)
}
