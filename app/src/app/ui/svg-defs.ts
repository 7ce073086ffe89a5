import { ChangeDetectionStrategy, Component } from '@angular/core';

/** Textures and glyphs that every drawing refers to by id. Once per document. */
@Component({
  selector: 'ck-svg-defs',
  changeDetection: ChangeDetectionStrategy.OnPush,
  styles: ':host { position: absolute; width: 0; height: 0; overflow: hidden }',
  template: `<svg width="0" height="0" aria-hidden="true">
    <defs>
      <pattern id="tx-bulk" width="7" height="7" patternUnits="userSpaceOnUse">
        <rect width="7" height="7" fill="var(--ck-bulk-wash)" />
        <path d="M-2 9 9 -2M-2 2 2 -2M5 9 9 5" stroke="var(--ck-bulk)" stroke-width="1.7" />
      </pattern>
      <pattern id="tx-absorb" width="8" height="8" patternUnits="userSpaceOnUse"><rect width="8" height="8" fill="var(--ck-absorb)" /></pattern>
      <pattern id="tx-float" width="7" height="7" patternUnits="userSpaceOnUse">
        <rect width="7" height="7" fill="var(--ck-float-wash)" />
        <circle cx="1.75" cy="1.75" r="1.15" fill="var(--ck-tx-float)" />
        <circle cx="5.25" cy="5.25" r="1.15" fill="var(--ck-tx-float)" />
      </pattern>
      <pattern id="tx-rest" width="8" height="8" patternUnits="userSpaceOnUse"><rect width="8" height="8" fill="var(--ck-rest-wash)" /></pattern>
      <pattern id="tx-equalise" width="6" height="6" patternUnits="userSpaceOnUse">
        <rect width="6" height="6" fill="var(--ck-equalise-wash)" />
        <rect x="1" width="2.6" height="6" fill="var(--ck-equalise)" />
      </pattern>
      <pattern id="tx-cold" width="8" height="8" patternUnits="userSpaceOnUse">
        <rect width="8" height="8" fill="var(--ck-cold-wash)" />
        <path d="M0 0 8 8M8 0 0 8" stroke="var(--ck-tx-cold)" stroke-width="1" />
      </pattern>
      <pattern id="tx-hot" width="7" height="7" patternUnits="userSpaceOnUse">
        <rect width="7" height="7" fill="var(--ck-hot-wash)" />
        <path d="M-2 -2 9 9M-2 5 2 9M5 -2 9 2" stroke="var(--ck-hot)" stroke-width="1.7" />
      </pattern>
      <pattern id="tx-fault" width="8" height="8" patternUnits="userSpaceOnUse">
        <rect width="8" height="8" fill="var(--ck-fault-wash)" />
        <path d="M0 8 4 0 8 8" fill="none" stroke="var(--ck-fault)" stroke-width="1.2" />
      </pattern>
      <pattern id="band-absorb" width="8" height="8" patternUnits="userSpaceOnUse"><rect width="8" height="8" fill="var(--ck-band-absorb)" /></pattern>
      <pattern id="band-float" width="7" height="7" patternUnits="userSpaceOnUse">
        <rect width="7" height="7" fill="var(--ck-band-float)" />
        <circle cx="1.75" cy="1.75" r=".95" fill="var(--ck-band-float-dot)" />
        <circle cx="5.25" cy="5.25" r=".95" fill="var(--ck-band-float-dot)" />
      </pattern>
      <pattern id="band-equalise" width="6" height="6" patternUnits="userSpaceOnUse">
        <rect width="6" height="6" fill="var(--ck-band-equalise)" />
        <rect x="1" width="1.6" height="6" fill="var(--ck-band-equalise-bar)" />
      </pattern>
      <pattern id="band-cold" width="8" height="8" patternUnits="userSpaceOnUse">
        <rect width="8" height="8" fill="var(--ck-band-cold)" />
        <path d="M0 0 8 8M8 0 0 8" stroke="var(--ck-band-cold-line)" stroke-width="1" />
      </pattern>
      <pattern id="out" width="6" height="6" patternUnits="userSpaceOnUse">
        <rect width="6" height="6" fill="var(--ck-band-fault)" />
        <path d="M0 6 6 0" stroke="var(--ck-band-fault-line)" stroke-width="1" />
      </pattern>
      <symbol id="g-proved" viewBox="0 0 16 16">
        <circle cx="8" cy="8" r="7.2" fill="var(--ck-proved)" />
        <path d="M4.5 8.3 7 10.8 11.6 5.6" fill="none" stroke="var(--ck-on-dark)" stroke-width="1.9" />
      </symbol>
      <symbol id="g-done" viewBox="0 0 16 16">
        <path d="M13.55 7.3A6.1 6.1 0 1 1 10.4 2.95" fill="none" stroke="var(--ck-proved)" stroke-width="1.7" />
        <path d="M4.7 7.9 7.6 10.8 14.6 2.9" fill="none" stroke="var(--ck-proved)" stroke-width="1.9" />
      </symbol>
      <symbol id="g-attention" viewBox="0 0 16 16">
        <path d="M8 .9 15.6 14.6H.4z" fill="var(--ck-attention)" />
        <path d="M8 5.2v4.6M8 11.3v1.8" stroke="var(--ck-on-dark)" stroke-width="1.9" />
      </symbol>
      <symbol id="g-attention-on-dark" viewBox="0 0 16 16">
        <path d="M8 .9 15.6 14.6H.4z" fill="var(--ck-on-dark)" />
        <path d="M8 5.2v4.6M8 11.3v1.8" stroke="var(--ck-attention)" stroke-width="1.9" />
      </symbol>
      <symbol id="g-stop" viewBox="0 0 16 16">
        <path d="M5 .6h6L15.4 5v6L11 15.4H5L.6 11V5z" fill="var(--ck-stop)" />
        <path d="M4 8h8" stroke="var(--ck-on-dark)" stroke-width="2.6" />
      </symbol>
      <symbol id="g-stop-on-dark" viewBox="0 0 16 16">
        <path d="M5 .6h6L15.4 5v6L11 15.4H5L.6 11V5z" fill="var(--ck-on-dark)" />
        <path d="M4 8h8" stroke="var(--ck-stop)" stroke-width="2.6" />
      </symbol>
      <symbol id="g-note" viewBox="0 0 16 16"><circle cx="8" cy="8" r="3.4" fill="var(--ck-ink-2)" /></symbol>
      <symbol id="g-notyet" viewBox="0 0 16 16">
        <circle cx="8" cy="8" r="6.3" fill="var(--ck-surface)" stroke="var(--ck-notyet)" stroke-width="1.7" stroke-dasharray="3 1.95" />
      </symbol>
      <symbol id="g-inconclusive" viewBox="0 0 16 16">
        <path d="M8 1 15 8 8 15 1 8z" fill="var(--ck-surface)" stroke="var(--ck-inconclusive)" stroke-width="1.5" />
        <path d="M8 1v14L1 8z" fill="var(--ck-inconclusive)" />
      </symbol>
      <symbol id="mark" viewBox="0 0 34 28">
        <path d="M0 6h34" stroke="var(--ck-ink)" stroke-width="1.4" />
        <path d="M1 6h32c-3.4 4.6-8.6 6-14.4 6C11.6 12 5.2 10.4 1 6z" fill="var(--ck-ink)" />
        <path d="M12.6 13.6h10.6L19.6 26h-4.2z" fill="var(--ck-copper)" />
      </symbol>
    </defs>
  </svg>`,
})
export class SvgDefs {}
