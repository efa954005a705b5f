package packets

import "sync"

// Locks are mutexes by name, for as long as somebody holds or waits for them.
type Locks struct {
	mutex sync.Mutex
	held  map[string]*namedLock
}

type namedLock struct {
	sync.Mutex
	users int // who hold it or wait for it
}

// Lock locks a name until unlock is called.
func (l *Locks) Lock(name string) (unlock func()) {
	l.mutex.Lock()
	if l.held == nil {
		l.held = map[string]*namedLock{}
	}
	lock := l.held[name]
	if lock == nil {
		lock = &namedLock{}
		l.held[name] = lock
	}
	lock.users++
	l.mutex.Unlock()
	lock.Lock()
	return func() {
		lock.Unlock()
		l.mutex.Lock()
		defer l.mutex.Unlock()
		if lock.users--; lock.users == 0 {
			delete(l.held, name)
		}
	}
}
