using System.Security.Cryptography;

namespace Walkdown.Core.Sealing;

/// <summary>A stream to write to that knows how long what went through it is, and its SHA-256. Disposing it disposes the one
/// behind.</summary>
public sealed class HashedStream(Stream to) : Stream
{
    private readonly IncrementalHash _hash = IncrementalHash.CreateHash(HashAlgorithmName.SHA256);
    private long _bytes;

    /// <summary>Of all that was written, in lower-case hexadecimal.</summary>
    public string Hash() => Convert.ToHexStringLower(_hash.GetCurrentHash());

    public override void Write(ReadOnlySpan<byte> some)
    {
        _hash.AppendData(some);
        _bytes += some.Length;
        to.Write(some);
    }

    public override async ValueTask WriteAsync(ReadOnlyMemory<byte> some, CancellationToken cancel = default)
    {
        _hash.AppendData(some.Span);
        _bytes += some.Length;
        await to.WriteAsync(some, cancel);
    }

    public override void Write(byte[] some, int offset, int count) => Write(some.AsSpan(offset, count));

    public override Task WriteAsync(byte[] some, int offset, int count, CancellationToken cancel) =>
        WriteAsync(some.AsMemory(offset, count), cancel).AsTask();

    public override bool CanRead => false;
    public override bool CanSeek => false;
    public override bool CanWrite => true;
    public override long Length => _bytes;
    public override long Position
    {
        get => _bytes;
        set => throw new NotSupportedException();
    }

    public override void Flush() => to.Flush();

    public override int Read(byte[] buffer, int offset, int count) => throw new NotSupportedException();

    public override long Seek(long offset, SeekOrigin origin) => throw new NotSupportedException();

    public override void SetLength(long value) => throw new NotSupportedException();

    protected override void Dispose(bool disposing)
    {
        if (disposing)
        {
            _hash.Dispose();
            to.Dispose();
        }
        base.Dispose(disposing);
    }
}
