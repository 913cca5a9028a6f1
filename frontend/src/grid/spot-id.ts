/** The name in the page of a place of the grid, for those who hear where the keyboard is. */
export const spotId = (row: number, column: number): string => `at-${row}-${column}`.replaceAll("--", "-head");
