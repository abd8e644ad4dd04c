/** Pages of a list that stands whole on the device; none where all fit on one. */
export function pages(rows: readonly unknown[], size: number) {
  return rows.length <= size ? false : ({ pageSize: size, size: 'small', showLessItems: true } as const);
}
