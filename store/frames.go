package store

import (
	"crypto/sha256"
	"encoding/hex"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"sync"
	"time"
)

// Frames is a cache of simulated frames in a directory: files named by what the frames depend on.
// What is missing, damaged or too much is made anew by those who ask; nothing else is kept in it.
type Frames struct {
	dir  string
	most int64 // bytes
	mu   sync.Mutex
}

// framesEnding is that of the cache's files; others in the directory are left alone.
const framesEnding = ".frames"

// OpenFrames opens a cache of up to most bytes, and makes its directory.
func OpenFrames(dir string, most int64) (*Frames, error) {
	if err := os.MkdirAll(dir, 0o700); err != nil {
		return nil, err
	}
	f := &Frames{dir: dir, most: most}
	f.mu.Lock()
	defer f.mu.Unlock()
	f.trim()
	return f, nil
}

func (f *Frames) file(key string) string {
	sum := sha256.Sum256([]byte(key))
	return filepath.Join(f.dir, hex.EncodeToString(sum[:16])+framesEnding)
}

// Get returns what was kept under a key, whole as it was put; false where nothing is.
func (f *Frames) Get(key string) ([]byte, bool) {
	name := f.file(key)
	data, err := os.ReadFile(name)
	if err != nil || len(data) < sha256.Size {
		return nil, false
	}
	body := data[:len(data)-sha256.Size]
	if sum := sha256.Sum256(body); string(sum[:]) != string(data[len(body):]) {
		_ = os.Remove(name) // damaged
		return nil, false
	}
	now := time.Now()
	_ = os.Chtimes(name, now, now) // it was used
	return body, true
}

// Put keeps data under a key; the files that were used longest ago go for it. What cannot be written
// is not kept.
func (f *Frames) Put(key string, data []byte) {
	f.mu.Lock()
	defer f.mu.Unlock()
	if int64(len(data)) > f.most {
		return
	}
	tmp, err := os.CreateTemp(f.dir, ".put-*")
	if err != nil {
		return
	}
	sum := sha256.Sum256(data)
	_, err = tmp.Write(data)
	if err == nil {
		_, err = tmp.Write(sum[:])
	}
	if e := tmp.Close(); err == nil {
		err = e
	}
	if err == nil {
		err = os.Rename(tmp.Name(), f.file(key))
	}
	if err != nil {
		_ = os.Remove(tmp.Name())
		return
	}
	f.trim()
}

// Size is how many bytes are kept, of how many at most.
func (f *Frames) Size() (bytes, most int64) {
	for _, e := range f.files() {
		bytes += e.Size()
	}
	return bytes, f.most
}

func (f *Frames) files() []os.FileInfo {
	list, _ := os.ReadDir(f.dir)
	var out []os.FileInfo
	for _, e := range list {
		if strings.HasSuffix(e.Name(), framesEnding) {
			if i, err := e.Info(); err == nil {
				out = append(out, i)
			}
		}
	}
	return out
}

// trim deletes the files that were used longest ago until the rest is within the cache's size.
func (f *Frames) trim() {
	list := f.files()
	slices.SortFunc(list, func(a, b os.FileInfo) int { return b.ModTime().Compare(a.ModTime()) })
	sum := int64(0)
	for _, e := range list {
		if sum += e.Size(); sum > f.most {
			_ = os.Remove(filepath.Join(f.dir, e.Name()))
		}
	}
}
