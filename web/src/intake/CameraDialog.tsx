import { Alert, Button, Group, Modal, Stack } from '@mantine/core';
import { useEffect, useRef, useState } from 'react';
import classes from './CameraDialog.module.css';
import { t } from '../words';

interface Props {
  opened: boolean;
  onClose: () => void;
  onPhoto: (file: File) => void;
}

const QUALITY = 0.94;

/** Takes photographs with the browser's camera, one after another. */
export function CameraDialog({ opened, onClose, onPhoto }: Props) {
  return (
    <Modal opened={opened} onClose={onClose} size={720} title={t('intake.photographPapers')}>
      {opened && <Camera onClose={onClose} onPhoto={onPhoto} />}
    </Modal>
  );
}

function Camera({ onClose, onPhoto }: Omit<Props, 'opened'>) {
  const video = useRef<HTMLVideoElement>(null);
  const [problem, setProblem] = useState<string>();
  const [ready, setReady] = useState(false);
  const [taken, setTaken] = useState(0);

  useEffect(() => {
    let stream: MediaStream | undefined;
    let over = false;
    openCamera()
      .then((opened) => {
        stream = opened;
        if (over || !video.current) stop(opened);
        else video.current.srcObject = opened;
      })
      .catch((error: unknown) => setProblem(sentence(error)));
    return () => {
      over = true;
      if (stream) stop(stream);
    };
  }, []);

  const take = async () => {
    if (!video.current) return;
    const file = await photograph(video.current, taken + 1);
    onPhoto(file);
    setTaken(taken + 1);
  };

  return (
    <Stack gap="sm">
      {problem ? (
        <Alert color="var(--clay)">{problem}</Alert>
      ) : (
        <video
          ref={video}
          className={classes.video}
          autoPlay
          muted
          playsInline
          aria-label={t('intake.whatTheCameraSees')}
          onPlaying={() => setReady(true)}
        />
      )}
      <p className={classes.words}>
        {taken === 0 ? t('intake.holdTheCameraAboveThe') : t('intake.photographsTaken', { count: taken })}
      </p>
      <Group justify="flex-end">
        <Button onClick={onClose}>{taken > 0 ? t('intake.done') : t('intake.cancel')}</Button>
        <Button variant="filled" disabled={!ready} onClick={() => void take()} data-autofocus>
          {t('intake.takeAPhotograph')}
        </Button>
      </Group>
    </Stack>
  );
}

/** The camera at the back where there is one, with as many pixels as it gives. */
async function openCamera(): Promise<MediaStream> {
  if (!('mediaDevices' in navigator)) throw new DOMException('', 'NotSupportedError');
  return navigator.mediaDevices.getUserMedia({
    video: { facingMode: 'environment', width: { ideal: 4096 }, height: { ideal: 3072 } },
  });
}

function stop(stream: MediaStream) {
  stream.getTracks().forEach((track) => track.stop());
}

async function photograph(video: HTMLVideoElement, number: number): Promise<File> {
  const canvas = document.createElement('canvas');
  canvas.width = video.videoWidth;
  canvas.height = video.videoHeight;
  canvas.getContext('2d')?.drawImage(video, 0, 0);
  const blob = await new Promise<Blob>((resolve, reject) => {
    canvas.toBlob(
      (made) => (made ? resolve(made) : reject(new Error(t('intake.thePhotographIsEmpty')))),
      'image/jpeg',
      QUALITY,
    );
  });
  const time = new Date().toTimeString().slice(0, 8).replaceAll(':', '.');
  return new File([blob], t('intake.photographJpg', { time, number }), { type: 'image/jpeg' });
}

function sentence(error: unknown): string {
  const name = error instanceof DOMException ? error.name : '';
  if (name === 'NotAllowedError') return t('intake.theBrowserDoesNotLet');
  if (name === 'NotFoundError') return t('intake.noCameraIsConnectedConnect');
  if (name === 'NotReadableError') return t('intake.theCameraIsInUse');
  return t('intake.theCameraCannotBeUsed');
}
