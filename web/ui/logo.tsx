export function Logo() {
  return (
    <svg
      viewBox="0 0 32 20"
      width={30}
      height={19}
      fill="none"
      strokeWidth={2.4}
      strokeLinejoin="round"
      aria-hidden="true"
    >
      <path d="M2 17 10 5l7 12" stroke="#9eb0c6" />
      <path d="M8 17 17 4l8 13" stroke="#3e7c7a" />
      <path d="M15 17 22 8l8 9" stroke="#7a4424" />
    </svg>
  );
}
