using System.Collections.Immutable;

namespace Walkdown.Server.Handover;

/// <param name="DeviceId">One Card alone; null for the whole job.</param>
/// <param name="Language">Of the pages.</param>
public sealed record DraftRequest(Guid? DeviceId, string Language);

/// <summary>A pack to read before anybody signs.</summary>
/// <param name="Files">Its volumes, in order.</param>
/// <param name="Shown">Fingerprint of what it shows, as <see cref="HandoverAnswer.Shown"/>.</param>
public sealed record DraftPack(Guid Id, ImmutableArray<string> Files, string Shown);
