/** Minutes as people say them: to the half below ten. */
export const minutes = (m: number) => `${m < 9.5 ? Math.round(m * 2) / 2 : Math.round(m)} min`;
