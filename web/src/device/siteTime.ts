/** The site's time zone, in which every instant is shown, as the papers show it. */
let zone = 'UTC';

export const siteTime = {
  setZone(name: string): void {
    zone = name;
  },
  get zone(): string {
    return zone;
  },
};
