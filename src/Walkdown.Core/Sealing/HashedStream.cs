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

    /// <summary>Writes on, and hashes.</summary>
    public override void Write(ReadOnlySpan<byte> some)
    {
        _hash.AppendData(some);
        _bytes += some.Length;
        to.Write(some);
    }

    /// <summary>Writes on, and hashes.</summary>
    public override async ValueTask WriteAsync(ReadOnlyMemory<byte> some, CancellationToken cancel = default)
    {
        _hash.AppendData(some.Span);
        _bytes += some.Length;
        await to.WriteAsync(some, cancel);
    }

    /// <summary>Writes on, and hashes.</summary>
    public override void Write(byte[] some, int offset, int count) => Write(some.AsSpan(offset, count));

    /// <summary>Writes on, and hashes.</summary>
    public override Task WriteAsync(byte[] some, int offset, int count, CancellationToken cancel) =>
        WriteAsync(some.AsMemory(offset, count), cancel).AsTask();

    /// <summary>It is written only.</summary>
    public override bool CanRead => false;

    /// <summary>It goes forward only.</summary>
    public override bool CanSeek => false;

    /// <summary>It is written.</summary>
    public override bool CanWrite => true;

    /// <summary>Bytes written so far.</summary>
    public override long Length => _bytes;

    /// <summary>Bytes written so far; it cannot be set.</summary>
    public override long Position
    {
        get => _bytes;
        set => throw new NotSupportedException();
    }

    /// <summary>Flushes what is beneath.</summary>
    public override void Flush() => to.Flush();

    /// <summary>Not supported.</summary>
    public override int Read(byte[] buffer, int offset, int count) => throw new NotSupportedException();

    /// <summary>Not supported.</summary>
    public override long Seek(long offset, SeekOrigin origin) => throw new NotSupportedException();

    /// <summary>Not supported.</summary>
    public override void SetLength(long value) => throw new NotSupportedException();

    /// <summary>Ends it, and leaves what is beneath open.</summary>
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
