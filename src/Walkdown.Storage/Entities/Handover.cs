namespace Walkdown.Storage.Entities;

/// <summary>A picture of a place, kept among the evidence by its hash. Rows are only added; the file of an erased one is gone, its row
/// stays.</summary>
public sealed class Picture
{
    public Guid Id { get; set; }
    public Guid JobId { get; set; }
    public Guid DeviceId { get; set; }

    /// <summary>SHA-256 of the file as it was taken.</summary>
    public required string Hash { get; set; }

    /// <summary>Of the smaller copy, upright, that pages show.</summary>
    public required string ShownHash { get; set; }
    public required string MediaType { get; set; }
    public int Width { get; set; }
    public int Height { get; set; }
    public long Bytes { get; set; }
    public string Caption { get; set; } = "";
    public Core.Handover.PictureMoment Moment { get; set; }

    /// <summary>Shows people or plates: it may have to be erased.</summary>
    public bool Personal { get; set; }
    public Guid By { get; set; }
    public DateTimeOffset TakenAt { get; set; }
    public long Sequence { get; set; }
}

/// <summary>A picture that was erased: by whom, why and when. Its hash stays, so that records with it still verify.</summary>
public sealed class Erasure
{
    public Guid Id { get; set; }
    public Guid JobId { get; set; }
    public Guid PictureId { get; set; }
    public required string By { get; set; }
    public required string Reason { get; set; }
    public DateTimeOffset At { get; set; }
    public long Sequence { get; set; }
}

/// <summary>A sealed state of a job, or of one Card. Rows are only added; each names the one before it.</summary>
public sealed class Revision
{
    public Guid Id { get; set; }
    public Guid JobId { get; set; }

    /// <summary>One Card alone; null for the whole job.</summary>
    public Guid? DeviceId { get; set; }
    public int Number { get; set; }

    /// <summary>Hash of the sealed record's content.</summary>
    public required string Hash { get; set; }
    public string? PreviousHash { get; set; }

    /// <summary>Fingerprint of the key it was sealed with.</summary>
    public required string Key { get; set; }

    /// <summary>Name of the pack in the packs folder.</summary>
    public required string File { get; set; }

    /// <summary>Who signed, and the counts, as JSON for the list.</summary>
    public required string SummaryJson { get; set; }
    public DateTimeOffset At { get; set; }
    public long Sequence { get; set; }

    /// <summary>The journal's newest entry of the job that it holds.</summary>
    public long UpTo { get; set; }
}
