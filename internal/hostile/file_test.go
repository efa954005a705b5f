package hostile

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestNamesAreUnique(t *testing.T) {
	files := Files()
	assert.GreaterOrEqual(t, len(files), 60)
	for i, file := range files {
		assert.NotEmpty(t, file.Name)
		if i > 0 {
			assert.NotEqual(t, files[i-1].Name, file.Name)
		}
	}
}
