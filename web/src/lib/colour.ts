/** Channels 0..255 of "#rrggbb". */
export const channels = (colour: string): [number, number, number] => {
  const [r, g, b] = [1, 3, 5].map((i) => parseInt(colour.slice(i, i + 2), 16))
  return [r!, g!, b!]
}
