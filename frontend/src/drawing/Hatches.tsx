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
      <pattern id="hatch-keep-out" width="8" height="8" patternUnits="userSpaceOnUse">
        <path d="M0 8L8 0M-2 2L2 -2M6 10L10 6" stroke="var(--color-error)" strokeWidth="0.8" strokeOpacity="0.45" />
      </pattern>
      <pattern id="hatch-hold" width="6" height="6" patternUnits="userSpaceOnUse">
        <path d="M0 6L6 0M-1.5 1.5L1.5 -1.5M4.5 7.5L7.5 4.5" stroke="var(--color-error)" strokeWidth="0.9" />
      </pattern>
      <pattern id="hatch-unknown" width="10" height="10" patternUnits="userSpaceOnUse">
        <path d="M0 0L10 10M-2 8L2 12M8 -2L12 2" stroke="var(--fine)" strokeWidth="0.7" strokeOpacity="0.5" />
      </pattern>
      <pattern id="hatch-rock" width="16" height="12" patternUnits="userSpaceOnUse">
        <rect width="16" height="12" fill="var(--steel)" fillOpacity="0.35" />
        <path d="M1 4L5 1L8 5L4 8ZM9 9L13 6L15 10Z" fill="none" stroke="var(--steel-line)" strokeWidth="0.8" />
      </pattern>
      <pattern id="hatch-wet" width="14" height="8" patternUnits="userSpaceOnUse">
        <path d="M1 3Q3 1 5 3T9 3M7 7Q9 5 11 7" fill="none" stroke="var(--frost)" strokeWidth="0.9" />
      </pattern>
    </defs>
  );
}
