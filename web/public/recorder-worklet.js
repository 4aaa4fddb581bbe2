// Hands what the microphone gives to the page, frame by frame; runs on the browser's sound thread.
class Recorder extends AudioWorkletProcessor {
  process([input]) {
    if (input?.length) this.port.postMessage(input.map((channel) => channel.slice()));
    return true;
  }
}

registerProcessor('tambur-recorder', Recorder);
