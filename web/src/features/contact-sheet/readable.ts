/** Files of pictures and clips, by their endings; and as an input names them. */
export const READABLE = /\.(jpe?g|png|webp|tiff?|hei[cf]|avif|mp4|mov|m4v|webm|mkv|avi)$/i
export const ACCEPTED = 'image/*,video/*,.heic,.heif,.avif,.tif,.tiff,.mkv'
