/** Hatches for what is cut through: soil, fine soil, sand. */
export function Hatches() {
  return (
    <defs>
      <pattern id="hatch-soil" width="14" height="14" patternUnits="userSpaceOnUse">
        <rect width="14" height="14" fill="var(--soil)" fillOpacity="0.55" />
        <path d="M0 14L14 0M-2 2L2 -2M12 16L16 12" stroke="var(--soil-line)" strokeWidth="0.7" strokeOpacity="0.55" />
        <circle cx="4" cy="5" r="0.9" fill="var(--soil-line)" fillOpacity="0.6" />
        <circle cx="11" cy="10" r="0.7" fill="var(--soil-line)" fillOpacity="0.6" />
      </pattern>
      <pattern id="hatch-fine-soil" width="8" height="6" patternUnits="userSpaceOnUse">
        <rect width="8" height="6" fill="var(--fine-soil)" fillOpacity="0.75" />
        <path d="M0 3H5" stroke="var(--soil-ink)" strokeWidth="0.8" strokeOpacity="0.7" />
      </pattern>
      <pattern id="hatch-sand" width="7" height="7" patternUnits="userSpaceOnUse">
        <rect width="7" height="7" fill="var(--sand)" />
        <circle cx="2" cy="2" r="0.7" fill="var(--soil-line)" />
        <circle cx="5.5" cy="5" r="0.7" fill="var(--soil-line)" />
      </pattern>
    </defs>
  );
}
