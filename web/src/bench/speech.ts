/** Says something with the browser's own voice; nothing is sent anywhere. What was being said gives way to it. */
export function say(text: string) {
  if (!("speechSynthesis" in window)) return;
  speechSynthesis.cancel();
  speechSynthesis.speak(new SpeechSynthesisUtterance(spoken(text)));
}

/** Signs in words, so that a voice does not spell them. */
function spoken(text: string): string {
  return text
    .replaceAll("\u00a0", " ")
    .replace(/\bmΩ/g, "milliohms")
    .replace(/kΩ/g, "kilohms")
    .replace(/MΩ/g, "megohms")
    .replace(/Ω/g, "ohms")
    .replace(/\bmV\b/g, "millivolts")
    .replace(/\bmA\b/g, "milliamps")
    .replace(/(\d) V\b/g, "$1 volts")
    .replace(/(\d) A\b/g, "$1 amps")
    .replace(/%/g, "percent")
    .replace(/−/g, "minus ");
}
