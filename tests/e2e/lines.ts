/** The port that the server of a line of journeys answers on. */
export const portOf = (line: number) =>
  Number(process.env.WALKDOWN_TEST_PORT ?? 4790) + 20 * line;
