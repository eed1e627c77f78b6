'use client';

import { Download } from 'lucide-react';
import { useState } from 'react';
import { NAMINGS, type Naming, PICTURE_FILES, type PictureFile } from '@/core/material/pictureFiles';
import { urlOf } from '../shared/api';
import { Select } from '../shared/fields';
import { Menu } from '../shared/Menu';
import { ValueField } from '../shared/ValueField';

/** A material as a zip: how its pictures are written, and what they are called. */
export function DownloadMenu({ id }: { id: string }) {
  const [pictures, setPictures] = useState<PictureFile | ''>('');
  const [quality, setQuality] = useState(90);
  const [names, setNames] = useState<Naming>('role');
  const query = {
    pictures: pictures || undefined,
    quality: pictures === 'jpeg' ? String(Math.round(quality)) : undefined,
    names: names === 'role' ? undefined : names,
  };
  return (
    <Menu
      align="right"
      className="tool px-1.5"
      title="As a zip: its pictures, and an open JSON"
      label={
        <>
          <Download size={14} />
          <span className="sr-only">Download</span>
        </>
      }
    >
      {(close) => (
        <div className="w-64 space-y-2 p-1.5">
          <Select
            label="Pictures as"
            value={pictures}
            options={[
              ['', 'they are kept'],
              ...Object.entries(PICTURE_FILES).map(([key, { label }]): [string, string] => [key, label]),
            ]}
            onChange={(v) => setPictures(v as PictureFile | '')}
          />
          {pictures && <p className="quiet text-2xs leading-tight">{PICTURE_FILES[pictures].says}</p>}
          {pictures === 'jpeg' && (
            <ValueField
              label="Quality"
              kind="number"
              min={1}
              max={100}
              step={5}
              decimals={0}
              value={quality}
              onChange={setQuality}
            />
          )}
          <Select
            label="Named as"
            value={names}
            options={Object.entries(NAMINGS).map(([key, { label }]): [string, string] => [key, label])}
            onChange={(v) => setNames(v as Naming)}
          />
          <a
            className="tool tool-line w-full justify-center"
            href={urlOf('GET /api/materials/{id}/file', { id, query })}
            onClick={close}
          >
            Download the zip
          </a>
        </div>
      )}
    </Menu>
  );
}
