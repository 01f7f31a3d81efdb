package job

import "sync"

// memo remembers what was made under keys. Each is made once, whoever asks first.
type memo[V any] struct {
	mu   sync.Mutex
	made map[string]func() (V, error)
}

func (m *memo[V]) get(key string, make func() (V, error)) (V, error) {
	m.mu.Lock()
	if m.made == nil {
		m.made = map[string]func() (V, error){}
	}
	if m.made[key] == nil {
		m.made[key] = sync.OnceValues(make)
	}
	once := m.made[key]
	m.mu.Unlock()
	return once()
}
