package reading

import (
	"context"
	"sync"
	"time"

	"dorbin/internal/ocr"
)

// languageList remembers which languages are installed: the program is started to tell, and how it
// stands with a packet is asked for at every page that is read.
type languageList struct {
	mutex sync.Mutex
	list  []ocr.Language
	at    time.Time
}

// listedFor is how long what is installed is remembered: somebody may install a language meanwhile.
const listedFor = 20 * time.Second

// of gives the languages that are installed, as the reader told them lately.
func (l *languageList) of(ctx context.Context, reader ocr.Reader) ([]ocr.Language, error) {
	l.mutex.Lock()
	defer l.mutex.Unlock()
	if reader.IsInstalled() && time.Since(l.at) < listedFor {
		return l.list, nil
	}
	list, err := reader.Languages(ctx)
	if err == nil {
		l.list, l.at = list, time.Now()
	}
	return list, err
}
