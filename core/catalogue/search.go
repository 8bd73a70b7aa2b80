package catalogue

import (
	"slices"
	"strings"
)

// Search is what somebody looks for: every word of it must be found, by itself or by another name of the same thing.
type Search [][]string

// SearchFor reads what was typed: a run of words that has other names counts as one. It is empty where nothing was.
func (c *Catalogue) SearchFor(typed string) Search {
	words := strings.Fields(strings.ToLower(typed))
	var out Search
	for len(words) > 0 {
		names, n := c.namesOf(words)
		out = append(out, names)
		words = words[n:]
	}
	return out
}

// longestName is how many words a name in Synonyms has at most.
const longestName = 4

// namesOf gives the names of what the first words call, the longest run of them first, and how many words that took.
func (c *Catalogue) namesOf(words []string) (names []string, n int) {
	for n = min(len(words), longestName); n > 0; n-- {
		run := strings.Join(words[:n], " ")
		for _, group := range c.Synonyms {
			if slices.Contains(group, run) {
				names = append(names, group...)
			}
		}
		if len(names) > 0 {
			return append([]string{run}, names...), n
		}
	}
	return []string{words[0]}, 1
}

// In says how well a text holds what is looked for: 0 not at all, 3 where it begins with what was typed, 2 where it
// holds the words themselves, 1 where it holds other names of them.
func (s Search) In(text string) int {
	if len(s) == 0 {
		return 0
	}
	text = strings.ToLower(text)
	best := 2
	for _, names := range s {
		if !slices.ContainsFunc(names, func(name string) bool { return strings.Contains(text, name) }) {
			return 0
		}
		if !strings.Contains(text, names[0]) {
			best = 1
		}
	}
	if best == 2 && strings.HasPrefix(text, s[0][0]) {
		return 3
	}
	return best
}
