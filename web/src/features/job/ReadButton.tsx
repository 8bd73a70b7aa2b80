/** Opens the figures of a check that is read off. */
export const ReadButton = ({ onRead }: { onRead: () => void }) => (
  <button type="button" className="contained" onClick={onRead} style={{ minHeight: 52 }}>
    Type what was read
  </button>
);
