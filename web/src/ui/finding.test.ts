import { expect, test } from 'vitest'
import { fitness, found, slips } from './finding'

test('words are found by their beginnings, in any order, best first', () => {
  const labels = ['Export the film…', 'Choose all keyframes', 'To the keyframe before', 'Undo', 'Join: Dissolve', 'Additive dissolve']
  expect(found('key all', labels, (l) => l)).toEqual(['Choose all keyframes'])
  expect(found('dissolve', labels, (l) => l)).toEqual(['Join: Dissolve', 'Additive dissolve'])
  expect(found('', labels, (l) => l)).toEqual(labels)
  const called = [
    { label: 'Add a text', words: 'title' },
    { label: 'Add a title', words: '' },
  ]
  expect(
    found(
      'title',
      called,
      (c) => c.label,
      (c) => c.words,
    ).map((c) => c.label),
  ).toEqual(['Add a title', 'Add a text'])
  expect(fitness('nothing like it', 'Undo')).toBe(0)
})

test('a slip of one letter is let pass, in words that are long enough', () => {
  for (const typed of ['exprot', 'exort', 'expport', 'ezport', 'Éxport']) expect(fitness(typed, 'Export the film…')).toBeGreaterThan(0)
  expect(fitness('und0', 'Undo')).toBeGreaterThan(0)
  expect(fitness('xyz', 'Export the film…')).toBe(0)
  expect(fitness('on', 'An end')).toBe(0)
  expect(slips('ab', 'ba')).toBe(1)
})
