// Small things that all of a diagram's scripts use.
export const clone = (value) => JSON.parse(JSON.stringify(value ?? null));

/** Whether a box lies in a frame with all of it. */
export const within = (box, frame) => box.x >= frame.x && box.y >= frame.y
    && box.x + box.width <= frame.x + frame.width && box.y + box.height <= frame.y + frame.height;

/** "1 tablet", "3 tablets" */
export const places = (count, noun) => `${count} ${noun}${count === 1 ? '' : 's'}`;
